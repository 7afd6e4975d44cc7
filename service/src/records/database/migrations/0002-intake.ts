import { piecesOf } from "./frozen-pieces.js";
import type { Migrating } from "./migrating.js";

const STRUCTURE = `
ALTER TABLE datasets ADD COLUMN settings json NOT NULL DEFAULT '{}';
ALTER TABLE editions ADD COLUMN decisions json NOT NULL DEFAULT '[]';
ALTER TABLE editions ADD COLUMN changes json NOT NULL DEFAULT '[]';
ALTER TABLE editions ADD COLUMN rules json NOT NULL DEFAULT '{}';
ALTER TABLE editions ADD COLUMN appended json;
ALTER TABLE runs ADD COLUMN only_rows json;
CREATE TABLE edition_pieces (
  edition_id int NOT NULL REFERENCES editions ON DELETE CASCADE, column_number int NOT NULL, number int NOT NULL,
  first_row int NOT NULL, row_count int NOT NULL, facts json NOT NULL, data bytea NOT NULL, PRIMARY KEY (edition_id, column_number, number)
);
ALTER TABLE edition_pieces ALTER COLUMN data SET STORAGE EXTERNAL;
CREATE TABLE edition_changes (
  edition_id int NOT NULL REFERENCES editions ON DELETE CASCADE, number int NOT NULL, column_name text NOT NULL, kind text NOT NULL,
  count int NOT NULL, data bytea NOT NULL, PRIMARY KEY (edition_id, number)
);
CREATE TABLE uploads (
  sha256 text PRIMARY KEY, file text NOT NULL, size bigint NOT NULL, created_by text NOT NULL, created_at timestamptz NOT NULL DEFAULT now()
);
CREATE TABLE arrivals (
  id bigserial PRIMARY KEY, at timestamptz NOT NULL DEFAULT now(), way text NOT NULL, sender text NOT NULL, file text NOT NULL,
  dataset text, outcome text NOT NULL, edition int, message text, sha256 text
);
CREATE INDEX arrivals_at ON arrivals (at DESC);
`;

interface OldEdition {
  readonly id: number;
  readonly columns: readonly object[];
  readonly left_out: readonly { readonly row: number; readonly reason: string; readonly text: string }[];
}

/** Rows were kept in whole chunks before; now each column has pieces of its own. */
export async function up({ execute, select }: Migrating): Promise<void> {
  await execute(STRUCTURE);
  for (const { id, columns, left_out: leftOut } of await select<OldEdition>(
    "SELECT id, columns, left_out FROM editions",
  )) {
    const chunks = await select<{ data: Buffer }>(
      "SELECT data FROM edition_chunks WHERE edition_id = $1 ORDER BY number",
      [id],
    );
    const packed = piecesOf(
      chunks.map((chunk) => chunk.data),
      columns.length,
    );
    for (const { column, number, firstRow, rowCount, facts, data } of packed)
      await execute(
        "INSERT INTO edition_pieces (edition_id, column_number, number, first_row, row_count, facts, data) VALUES ($1, $2, $3, $4, $5, $6, $7)",
        [id, column, number, firstRow, rowCount, JSON.stringify(facts), data],
      );
    const reasons = [...new Set(leftOut.map((line) => line.reason))].map((reason) => {
      const lines = leftOut.filter((line) => line.reason === reason).map(({ row, text }) => ({ row, text }));
      return { reason, count: lines.length, lines: lines.slice(0, 20) };
    });
    await execute("UPDATE editions SET left_out = $2 WHERE id = $1", [id, JSON.stringify(reasons)]);
  }
  await execute("DROP TABLE edition_chunks");
}
