"""What the API takes and gives, one subject a file."""

from .advice import *
from .ballast import *
from .bench import *
from .common import *
from .fuel import *
from .geometry import *
from .instruments import *
from .logbook import *
from .people import *
from .plan import *
from .requests import *
from .sheets import *
from .side_view import *
from .trials import *
from .under_load import *
from .vocabulary import *
from .walks import *
from .watched import *
from .work import *
