import type { Schemas } from "../api/client";
import type { Light } from "../bench/light";
import type { Sheet } from "../definitions";

/** What each section of the sheet is given. */
export type SectionProps = {
  sheet: Sheet;
  change: (sheet: Sheet) => void;
  light: Light;
  setLight: (light: Light) => void;
  /** What the bench shows now. */
  seen?: Schemas["BenchView"];
};
