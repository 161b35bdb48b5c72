/** What every panel is told: the station it stands on, and its own entry of the table. */
import type { Schemas } from '../lib/client';

export interface PanelProps {
  station: Schemas['StationEntry'];
  panel: Schemas['PanelEntry'];
}
