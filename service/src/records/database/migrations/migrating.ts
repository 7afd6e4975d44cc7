/** What a migration may do: all of it within the one transaction that brings the database to its newest structure. */
export interface Migrating {
  readonly execute: (sql: string, bind?: readonly unknown[]) => Promise<void>;
  readonly select: <Row extends object>(sql: string, bind?: readonly unknown[]) => Promise<Row[]>;
}
