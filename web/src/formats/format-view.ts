import type { ReactNode } from "react";
import type { Field, Format, Recognition } from "../definitions";

/** How a field is moved to where it stands in a file that is written in another way. */
export type Replace = (field: Field, index: number) => Field;

export type FormProps<F extends Format> = {
  format: F;
  /** Takes the format, and where the fields of its only record type stand then, if that changes with it. */
  put(format: F, replace?: Replace): void;
};

export type PlaceProps<F extends Format> = { format: F; field: Field; put: (field: Field) => void };

export type RecognitionProps = { when?: Recognition; put: (when?: Recognition) => void };

/** A part of a text that is shown on a line of its own, so many levels inside. */
export type TextPart = { from: number; to: number; depth: number };

/** All that the interface has to know of one way to write files. */
export type FormatView<F extends Format> = {
  /** What such files are called. */
  label: string;
  /** How a file is written, in words. */
  words(format: F): string;
  /** How a file is written, as a form. */
  Form(props: FormProps<F>): ReactNode;
  /** What stands over the places of fields. */
  placeTitle(format: F): string;
  /** Where a field stands, as a form. */
  Place(props: PlaceProps<F>): ReactNode;
  /** Where one more field stands. */
  newPlace(format: F, name: string, fields: Field[]): Partial<Field>;
  /** What tells a record type from others, to begin with. */
  newRecognition(value: string): Recognition;
  /** How a record type is told from others: by its path (of elements or of JSON), by where its rows stand, or by a tag in a column or at a position. */
  toldBy: "path" | "json" | "rows" | "column" | "start";
  /** What tells a record type from others, as a form, where it is more than a path or a tag. */
  Recognition?(props: RecognitionProps): ReactNode;
  /** Whether a record type says what it is even where it is the only one. */
  tellsEach?: boolean;
  /** Whether there can be several record types. */
  takesSeveral(format: F): boolean;
  /** Whether the places of fields are long enough to be broken into lines. */
  longPlaces?: boolean;
  /** Whether records stand inside others, on as many lines as they have; else each is one line. */
  nests?: boolean;
  /** The lines that a record is shown on where it stands on one; itself where that is left out. */
  parts?(format: F, text: string): TextPart[];
  /** Whether fields stand at positions, which a ruler shows. */
  ruled?: boolean;
  /** Whether what is written can be indented. */
  indents?: boolean;
  /** What ends a line that is written, where nothing else is said; nothing where lines mean nothing. */
  lineEnd?: "LF" | "CR LF";
  /** How a layout is downloaded as a schema that others read, where there is one for such files. */
  schema?: { word: string; path: string; ending?: string };
  /** Whether a file is one of sheets, whose records are rows of cells. */
  sheets?: boolean;
  /** The usual ending of a file's name. */
  ending: string;
};
