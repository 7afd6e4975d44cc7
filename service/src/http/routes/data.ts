import { columnInfo, type Table } from "@corbix/core/table";
import { z } from "zod";
import { type DatasetRow, type EditionRow, getDataset, getEdition, readEdition } from "../../records/index.js";
import { type Route, route } from "../route.js";
import { edition as editionShape, named, numbered, rows } from "../shapes.js";

const MAX_PAGE_ROWS = 2_000;
export function dataRoutes(): Route[] {
  return [
    route("get", "/api/datasets", {
      summary: "All datasets with their newest edition",
      tag: "Data",
      answer: z.array(z.object({ name: z.string(), editions: z.number(), newest: editionShape.nullable() })),
      handle: async ({ context }) => {
        const { Dataset, Edition } = context.database.models;
        const datasets = (await Dataset.findAll({ order: [["name", "ASC"]], raw: true })) as unknown as DatasetRow[];
        return Promise.all(
          datasets.map(async (dataset) => {
            const all = (await Edition.findAll({
              where: { datasetId: dataset.id },
              order: [["number", "DESC"]],
              raw: true,
            })) as unknown as EditionRow[];
            return {
              name: dataset.name,
              editions: all.length,
              newest: all[0] ? showEdition(dataset.name, all[0]) : null,
            };
          }),
        );
      },
    }),
    route("get", "/api/datasets/{name}", {
      summary: "A dataset with all its editions, newest first",
      tag: "Data",
      params: named,
      answer: z.object({ name: z.string(), editions: z.array(editionShape) }),
      handle: async ({ context, params }) => {
        const dataset = await getDataset(context.database, params.name);
        const all = (await context.database.models.Edition.findAll({
          where: { datasetId: dataset.id },
          order: [["number", "DESC"]],
          raw: true,
        })) as unknown as EditionRow[];
        return { name: dataset.name, editions: all.map((one) => showEdition(dataset.name, one)) };
      },
    }),
    route("get", "/api/datasets/{name}/editions/{number}/rows", {
      summary: "Rows of an edition",
      tag: "Data",
      params: numbered,
      query: z.object({
        first: z.coerce.number().int().min(0).default(0),
        count: z.coerce.number().int().min(1).max(MAX_PAGE_ROWS).default(100),
      }),
      answer: rows,
      handle: async ({ context, params, query }) => {
        const edition = await getEdition(context.database, params.name, params.number);
        return showRows(
          await readEdition(context.database, edition, { first: query.first, count: query.count }),
          edition.rowCount,
        );
      },
    }),
  ];
}

export function showEdition(dataset: string, { id: _id, datasetId: _datasetId, ...edition }: EditionRow): object {
  return { dataset, ...edition };
}

/** A table row by row, as the console's grids show it. */
export function showRows(table: Table, total: number): object {
  return {
    columns: table.columns.map(columnInfo),
    rowNumbers: table.rowNumbers,
    rows: table.rowNumbers.map((_, row) => table.columns.map((column) => column.values[row])),
    total,
  };
}
