import type { Recognition, Workbook } from "../definitions";
import { ListBox, Select, TextBox, Tick } from "../ui/basics";
import type { FormatView, FormProps, PlaceProps, RecognitionProps } from "./format-view";
import { grid, whole } from "./parts";
import { letters } from "./sheet-rows";

type Rows = Extract<Recognition, { by: "rows" }>;

export const workbook: FormatView<Workbook> = {
  label: "workbook",
  words: (f) => `workbook (.xlsx), hidden rows ${f.hiddenRows === "skip" ? "passed over" : "read"}`,
  Form: WorkbookForm,
  placeTitle: () => "Under header, or column",
  Place: WorkbookPlace,
  newPlace: (_, name) => ({ header: name }),
  newRecognition: (value) => ({ by: "rows", sheet: value }),
  toldBy: "rows",
  Recognition: RowsForm,
  tellsEach: true,
  takesSeveral: () => true,
  sheets: true,
  ending: ".xlsx",
};

/** The letters of a column in what was typed. */
function asLetters(typed: string): string {
  return typed.toUpperCase().replace(/[^A-Z]/g, "") || letters(1);
}

function WorkbookForm({ format: f, put }: FormProps<Workbook>) {
  return (
    <div className="flex flex-col gap-3">
      <div className={grid}>
        <Select
          label="Hidden rows"
          value={f.hiddenRows ?? "read"}
          onChange={(hiddenRows) => put({ ...f, hiddenRows })}
          options={[
            { value: "read", label: "are read" },
            { value: "skip", label: "are passed over" },
          ]}
        />
        <Select
          label="Merged cells"
          value={f.mergedCells ?? "first"}
          onChange={(mergedCells) => put({ ...f, mergedCells })}
          options={[
            { value: "first", label: "the first has the value" },
            { value: "each", label: "each has the value" },
          ]}
        />
      </div>
      <div className="flex flex-wrap gap-x-4">
        <Tick
          label="Header: any case"
          checked={f.headerAnyCase ?? false}
          onChange={(headerAnyCase) => put({ ...f, headerAnyCase })}
        />
        <Tick
          label="Columns may be missing unless required"
          checked={f.missingColumns ?? false}
          onChange={(missingColumns) => put({ ...f, missingColumns })}
        />
      </div>
    </div>
  );
}

function WorkbookPlace({ field, put }: PlaceProps<Workbook>) {
  const by = field.sheet ? "sheet" : field.letter !== undefined ? "letter" : "header";
  const bare = { ...field, header: undefined, letter: undefined, sheet: undefined };
  return (
    <>
      <Select
        label="Stands"
        value={by}
        onChange={(v) =>
          put(
            v === "sheet"
              ? { ...bare, sheet: true }
              : v === "letter"
                ? { ...bare, letter: "A" }
                : { ...bare, header: field.header ?? field.name },
          )
        }
        options={[
          { value: "header", label: "under a header" },
          { value: "letter", label: "in a column" },
          { value: "sheet", label: "as the sheet's name" },
        ]}
      />
      {by === "header" && (
        <TextBox
          label="Under header"
          value={field.header ?? ""}
          onChange={(header) => put({ ...field, header })}
          data
        />
      )}
      {by === "letter" && (
        <TextBox
          label="Column"
          value={field.letter ?? ""}
          onChange={(v) => put({ ...field, letter: asLetters(v) })}
          hint="its letters, such as C"
          maxLength={3}
          data
        />
      )}
    </>
  );
}

/** On which sheet rows stand, in which cells of it, and which of them they are. */
function RowsForm({ when, put }: RecognitionProps) {
  const rows: Rows = when?.by === "rows" ? when : { by: "rows" };
  const set = (part: Partial<Rows>) => put({ ...rows, ...part });
  const which = rows.position !== undefined ? "position" : rows.sheet !== undefined ? "name" : "all";
  const told = rows.last ? "last" : rows.column !== undefined ? "text" : "each";
  const header = rows.header === undefined ? "found" : rows.header === 0 ? "none" : "row";
  return (
    <>
      <Select
        label="On"
        value={which}
        onChange={(v) =>
          set({
            sheet: v === "name" ? (rows.sheet ?? "Sheet 1") : undefined,
            position: v === "position" ? 1 : undefined,
          })
        }
        options={[
          { value: "name", label: "the sheet named" },
          { value: "position", label: "the sheet at position" },
          { value: "all", label: "every sheet" },
        ]}
      />
      {which === "name" && (
        <TextBox
          label="Sheet"
          value={rows.sheet ?? ""}
          onChange={(sheet) => set({ sheet })}
          hint="* stands for any characters"
          data
        />
      )}
      {which === "position" && (
        <TextBox
          label="Position"
          value={rows.position ?? 1}
          onChange={(v) => set({ position: whole(v, 1) })}
          inputMode="numeric"
          data
        />
      )}
      <TextBox
        label="In the cells"
        value={rows.range ?? ""}
        placeholder="all of the sheet"
        onChange={(range) => set({ range: range || undefined })}
        hint="a named range, a table, or B4:F30"
        data
      />
      <Select
        label="Header row"
        value={header}
        onChange={(v) => set({ header: v === "found" ? undefined : v === "none" ? 0 : 1 })}
        options={[
          { value: "found", label: "found by its names" },
          { value: "row", label: "is row" },
          { value: "none", label: "none" },
        ]}
      />
      {header === "row" && (
        <TextBox
          label="Row"
          value={rows.header ?? 1}
          onChange={(v) => set({ header: whole(v, 1) })}
          inputMode="numeric"
          data
        />
      )}
      <Select
        label="Are"
        value={told}
        onChange={(v) =>
          set({
            last: v === "last" ? true : undefined,
            column: v === "text" ? "A" : undefined,
            values: v === "text" ? ["Total"] : undefined,
          })
        }
        options={[
          { value: "each", label: "each row" },
          { value: "text", label: "rows with a text" },
          { value: "last", label: "the last row" },
        ]}
      />
      {told === "text" && (
        <>
          <ListBox label="Text" values={rows.values ?? []} onChange={(values) => set({ values })} />
          <TextBox
            label="in column"
            value={rows.column ?? "A"}
            onChange={(v) => set({ column: asLetters(v) })}
            maxLength={3}
            data
          />
        </>
      )}
      <Tick
        label="Until a blank row"
        checked={rows.untilBlank ?? false}
        onChange={(untilBlank) => set({ untilBlank: untilBlank || undefined })}
      />
    </>
  );
}
