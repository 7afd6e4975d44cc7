/** Rows by their models: what Sequelize gives as plain objects has the types of the table. */
import type { FindOptions } from "sequelize";
import type { RowModel } from "./models.js";

type Wish<Row> = Pick<FindOptions<Row>, "where" | "order" | "lock" | "transaction">;

/** All columns of a table, some of them, or all but some. */
type Columns<Row, Named extends keyof Row> = {
  readonly only?: readonly Named[];
  readonly besides?: readonly (keyof Row)[];
};

function optionsOf<Row>(wish: Wish<Row>, { only, besides }: Columns<Row, keyof Row>): FindOptions<Row> {
  const attributes = only ? [...only] : besides ? { exclude: [...besides] } : undefined;
  return { ...wish, raw: true, ...(attributes ? { attributes: attributes as string[] } : {}) };
}

/** The first row that meets a wish. */
export async function findRow<Row extends object, Named extends keyof Row = keyof Row>(
  table: RowModel<Row>,
  { only, besides, ...wish }: Wish<Row> & Columns<Row, Named>,
): Promise<Pick<Row, Named> | undefined> {
  const options = optionsOf(wish as Wish<Row>, { ...(only ? { only } : {}), ...(besides ? { besides } : {}) });
  return ((await table.findOne(options)) ?? undefined) as Pick<Row, Named> | undefined;
}

/** The first row that meets a wish. Throws where there is none. */
export async function getRow<Row extends object, Named extends keyof Row = keyof Row>(
  table: RowModel<Row>,
  wish: Wish<Row> & Columns<Row, Named>,
): Promise<Pick<Row, Named>> {
  const found = await findRow<Row, Named>(table, wish);
  if (!found) throw new Error(`a row of ${table.getTableName()} that has to be there is not`);
  return found;
}

/** All rows that meet a wish. */
export async function findRows<Row extends object, Named extends keyof Row = keyof Row>(
  table: RowModel<Row>,
  { only, besides, ...wish }: Wish<Row> & Columns<Row, Named>,
): Promise<Pick<Row, Named>[]> {
  const options = optionsOf(wish as Wish<Row>, { ...(only ? { only } : {}), ...(besides ? { besides } : {}) });
  return (await table.findAll(options)) as unknown as Pick<Row, Named>[];
}
