import { DataTypes, literal, type Model, type ModelAttributes, type ModelStatic, type Sequelize } from "sequelize";
import type {
  DatasetRow,
  EditionRow,
  FileRow,
  LetterRow,
  MessageRow,
  ParcelRow,
  RecipientListRow,
  ReportVersionRow,
  RunRow,
  TemplateVersionRow,
} from "./row-types.js";

/** A model whose new rows may leave out what the database fills in. */
export type RowModel<Row extends object> = ModelStatic<Model<Row, Partial<Row>>>;

export interface Models {
  readonly Dataset: RowModel<DatasetRow>;
  readonly Edition: RowModel<EditionRow>;
  readonly RecipientList: RowModel<RecipientListRow>;
  readonly TemplateVersion: RowModel<TemplateVersionRow>;
  readonly ReportVersion: RowModel<ReportVersionRow>;
  readonly Run: RowModel<RunRow>;
  readonly Parcel: RowModel<ParcelRow>;
  readonly File: RowModel<FileRow>;
  readonly Message: RowModel<MessageRow>;
  readonly Letter: RowModel<LetterRow>;
}

// Made anew for each column: Sequelize writes the column's own name into the object it is given.
const id = (): object => ({ type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true });
const bigId = (): object => ({ type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true });
const text = DataTypes.TEXT;
const int = DataTypes.INTEGER;
const json = DataTypes.JSON;
const time = DataTypes.DATE;
/** By the database's clock. */
const now = (): object => ({ type: DataTypes.DATE, defaultValue: literal("now()") });

/** The shape of each table; migrations make them, these only name their columns. */
export function defineModels(sequelize: Sequelize): Models {
  const table = <Row extends object>(
    tableName: string,
    attributes: Record<keyof Row & string, unknown>,
  ): RowModel<Row> =>
    sequelize.define(tableName, attributes as ModelAttributes<Model<Row, Partial<Row>>>, {
      tableName,
      timestamps: false,
      underscored: true,
    }) as RowModel<Row>;
  return {
    Dataset: table<DatasetRow>("datasets", { id: id(), name: text, settings: json, createdAt: now() }),
    Edition: table<EditionRow>("editions", {
      id: id(),
      datasetId: int,
      number: int,
      origin: text,
      sha256: text,
      stored: text,
      emptiedAt: time,
      rewritten: int,
      rowCount: int,
      columns: json,
      reading: json,
      headerRow: int,
      leftOut: json,
      decisions: json,
      changes: json,
      rules: json,
      appended: json,
      findings: json,
      createdBy: text,
      createdAt: now(),
    }),
    RecipientList: table<RecipientListRow>("recipient_lists", {
      id: id(),
      origin: text,
      sha256: text,
      stored: text,
      emptiedAt: time,
      follows: int,
      recipients: json,
      findings: json,
      createdBy: text,
      createdAt: now(),
    }),
    TemplateVersion: table<TemplateVersionRow>("template_versions", {
      id: id(),
      name: text,
      number: int,
      sha256: text,
      size: int,
      createdBy: text,
      createdAt: now(),
    }),
    ReportVersion: table<ReportVersionRow>("report_versions", {
      id: id(),
      name: text,
      number: int,
      source: text,
      definition: json,
      note: text,
      createdBy: text,
      createdAt: now(),
    }),
    Run: table<RunRow>("runs", {
      id: { type: text, primaryKey: true },
      report: text,
      reportVersion: int,
      period: text,
      occasion: text,
      periodChoice: json,
      calendar: json,
      state: text,
      waitingFor: json,
      editionId: int,
      editions: json,
      recipientListId: int,
      templates: json,
      runDate: int,
      rehearsalTo: text,
      onlyGroups: json,
      againReason: text,
      trace: text,
      onlyRows: json,
      paused: DataTypes.BOOLEAN,
      emptied: json,
      releaseAt: time,
      approvals: json,
      columns: json,
      plan: json,
      proof: json,
      since: json,
      error: json,
      parcelCount: int,
      startedBy: text,
      releasedBy: text,
      createdAt: now(),
      touchedAt: now(),
      releasedAt: time,
      finishedAt: time,
    }),
    Parcel: table<ParcelRow>("parcels", {
      id: bigId(),
      runId: text,
      number: int,
      groupKey: text,
      label: text,
      rowCount: int,
      rowsDigest: text,
      recipients: json,
      planned: json,
      attachments: json,
      enclosed: json,
      ways: json,
      totals: json,
      lines: DataTypes.BLOB,
      rowKeys: DataTypes.ARRAY(DataTypes.TEXT),
      leftOut: text,
      state: text,
      error: json,
      findings: json,
      since: json,
      moved: DataTypes.DOUBLE,
    }),
    File: table<FileRow>("files", {
      id: bigId(),
      runId: text,
      parcelId: DataTypes.BIGINT,
      file: text,
      kind: text,
      path: text,
      sha256: text,
      size: int,
      pages: int,
      groupKey: text,
      rowsDigest: text,
      provenance: json,
      createdAt: now(),
      removedAt: time,
    }),
    Message: table<MessageRow>("messages", {
      id: bigId(),
      runId: text,
      parcelId: DataTypes.BIGINT,
      groupKey: text,
      part: text,
      again: int,
      againReason: text,
      identity: text,
      way: text,
      carried: json,
      language: text,
      subject: text,
      html: text,
      text,
      envelope: json,
      messageId: text,
      state: text,
      releasedAt: time,
      attempts: int,
      response: text,
      results: json,
      notBefore: time,
      datedAt: time,
      mime: DataTypes.BLOB,
      packed: text,
      sha256: text,
      size: int,
      findings: json,
      worker: text,
      sentAt: time,
      touchedAt: now(),
    }),
    Letter: table<LetterRow>("letters", {
      id: bigId(),
      receivedAt: now(),
      mailFrom: text,
      rcptTo: json,
      subject: text,
      messageId: text,
      size: int,
      attachments: int,
      raw: DataTypes.BLOB,
    }),
  };
}
