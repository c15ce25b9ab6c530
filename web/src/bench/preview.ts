import type { Schemas } from "../api/client";

/** What the first records of a sample become. */
export type Preview = Schemas["Preview"];
