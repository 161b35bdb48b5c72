"""The one dictionary, for the screens: numbers, units, stations, readings, bands, schools."""

from __future__ import annotations

from functools import cache
from hashlib import sha256

from apiflask import APIBlueprint
from flask import Response, request

from cabrio.core.catalog.part import PartKind
from cabrio.core.catalog.part_kinds import part_kinds
from cabrio.core.catalog.quantities import PLACES, Number, Shape
from cabrio.core.catalog.units import MEASURES, PROFILES, factor_and_offset
from cabrio.core.charts import charts
from cabrio.core.constants import COIL_BIND_MARGIN
from cabrio.core.graph.registry import numbers
from cabrio.core.knowledge import DISCIPLINES, knowledge
from cabrio.core.questions import questions
from cabrio.core.record.clocked import ROLLOUT
from cabrio.core.record.watch import LIMITED
from cabrio.core.sheet.entry_points import entry_point
from cabrio.core.simulate.trials import TRIALS
from cabrio.operations.cars import CHOICES

from .. import schemas as s

routes = APIBlueprint("vocabulary", __name__, tag="Vocabulary")


@cache
def vocabulary() -> s.Vocabulary:
    book = knowledge()
    return s.Vocabulary(
        numbers=[_number(number) for number in numbers().values()],
        places={shape.value: list(places) for shape, places in PLACES.items()},
        measures={
            name: {profile: _shown(name, profile) for profile in PROFILES} for name in MEASURES
        },
        profiles=PROFILES,
        stations=[
            s.StationEntry.model_validate(station, from_attributes=True)
            for station in book.stations
        ],
        orders={one.id: list(one.stations) for one in book.disciplines.values()},
        procedures=[
            s.ProcedureEntry(
                **vars(procedure),
                steps=[
                    s.StepEntry(
                        label=step.label,
                        do=step.do,
                        station=step.station,
                        readings=list(step.readings),
                        cautions=[book.work.caution(name).text for name in step.cautions],
                    )
                    for step in book.work.steps_of(procedure.id)
                ],
            )
            for procedure in book.work.procedures
        ],
        readings=[
            s.ReadingKindEntry.model_validate(reading, from_attributes=True)
            for reading in book.readings.values()
        ],
        conditions=[s.ConditionEntry(**vars(condition)) for condition in book.conditions.values()],
        uses=[s.UseEntry(**vars(use)) for use in book.uses.values()],
        schools=[s.SchoolEntry(**vars(school)) for school in book.schools],
        rollout=ROLLOUT,
        talk=[s.TalkEntry.model_validate(one, from_attributes=True) for one in book.talk],
        clocked=[
            s.ClockedEntry(**{n: getattr(one, n) for n in s.ClockedEntry.model_fields})
            for one in book.clocked
        ],
        symptoms=[
            s.SymptomEntry(
                id=symptom.id,
                label=symptom.label,
                disciplines=list(symptom.disciplines),
                phases=list(
                    dict.fromkeys(
                        p for r in book.work.rules_by_symptom[symptom.id] for p in r.phases
                    )
                ),
                schools=sorted({r.school for r in book.work.rules_by_symptom[symptom.id]} - {""}),
            )
            for symptom in book.work.symptoms.values()
        ],
        views=[s.HeldEntry(**vars(view)) for view in book.work.views],
        limited=list(LIMITED),
        aims=[s.AimEntry(**vars(aim)) for aim in book.work.aims.values()],
        systems=[
            s.SystemEntry(
                id=system.id,
                label=system.label,
                numbers=[
                    number.name for number in numbers().values() if number.system == system.id
                ],
            )
            for system in book.systems.values()
        ],
        disciplines=[
            s.DisciplineEntry(
                id=discipline.id,
                label=discipline.label,
                phases=[
                    s.PhaseEntry(id=phase.id, label=phase.words) for phase in discipline.phases
                ],
                profile=discipline.profile,
                layouts=list(discipline.layouts),
                paired=list(discipline.paired),
                session_kinds=list(discipline.session_kinds),
                clock=discipline.clock,
                corners=discipline.corners,
            )
            for discipline in book.disciplines.values()
        ],
        parts=[_part_kind(kind) for kind in part_kinds().values()],
        questions=[
            s.QuestionEntry(
                name=q.name,
                label=q.label,
                help=q.help,
                asks=[
                    s.AskedEntry(key=ask.key, name=ask.number.name, place=ask.place)
                    for ask in q.asks
                ],
            )
            for q in questions().values()
        ],
        charts=[
            s.ChartEntry.model_validate(chart, from_attributes=True) for chart in charts().values()
        ],
        trials=[
            s.TrialEntry.model_validate(trial, from_attributes=True) for trial in TRIALS.values()
        ],
        jobs=[s.JobEntry(**vars(job)) for job in book.work.jobs.values()],
        choices={field: list(values) for field, values in CHOICES.items()},
        coil_bind_margin=COIL_BIND_MARGIN,
    )


def _number(one: Number) -> s.NumberEntry:
    doors = {name: found for name in DISCIPLINES if (found := entry_point(one.name, name))}
    fields = {
        field: getattr(one, field) for field in s.NumberEntry.model_fields if field != "doors"
    }
    return s.NumberEntry(
        **fields, doors={name: s.DoorEntry(**vars(found)) for name, found in doors.items()}
    )


def _part_kind(one: PartKind) -> s.PartKindEntry:
    return s.PartKindEntry(
        name=one.name,
        label=one.label,
        plural=one.plural,
        help=" ".join(one.help.split(". ")[0].split()).rstrip(".") + ".",
        layouts=list(numbers()[one.name].layouts),
        can_be_none=one.none_fitted is not None,
        has_axle=one.shape in (Shape.CORNER, Shape.AXLE),
        fields=[
            s.PartFieldEntry(
                id=field.id,
                kind=field.kind,
                label=field.label,
                help=" ".join(field.help.split()),
                group=field.group,
                needed=field.needed and len(field.path) == 1,
                quantity=field.number.quantity,
                number=field.gives.number if field.gives else "",
                options=[s.OptionEntry(value=key, words=words) for key, words in field.options],
                columns=[s.ColumnEntry(label=c.label, quantity=c.quantity) for c in field.columns],
                rows=[
                    s.RowEntry(
                        id=row.id,
                        label=row.label,
                        group=row.group,
                        asked=[
                            s.ChoiceEntry(field=name, values=list(values))
                            for name, values in row.asked
                        ],
                    )
                    for row in (field.table.names if field.table else ())
                ],
            )
            for field in one.fields
        ],
    )


def _shown(quantity: str, profile: str) -> s.ShownAs:
    shown = MEASURES[quantity].for_profile(profile)
    factor, offset = factor_and_offset(quantity, shown.unit)
    return s.ShownAs(symbol=shown.symbol, factor=factor, offset=offset, precision=shown.precision)


@routes.get("/vocabulary")
@routes.output(s.Vocabulary)
@routes.doc(summary="Every number, unit, station, reading, band and school")
def get_vocabulary() -> s.Vocabulary:
    return vocabulary()


@cache
def mark() -> str:
    """A hash of the whole dictionary: a browser that has this one need not be sent it again."""
    return sha256(vocabulary().model_dump_json().encode()).hexdigest()[:32]


@routes.after_request
def keep(response: Response) -> Response:
    """The browser keeps it, and asks each time whether it is still the same."""
    if response.status_code == 200:
        response.headers["Cache-Control"] = "no-cache, private"
        response.set_etag(mark())
        response.make_conditional(request)
    return response
