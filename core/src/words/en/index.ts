import { audit } from "./audit.js";
import { calendar } from "./calendar.js";
import { command } from "./command.js";
import { common } from "./common.js";
import { definition } from "./definition.js";
import { delivery } from "./delivery.js";
import { document } from "./document.js";
import { edition } from "./edition.js";
import { enquiry } from "./enquiry.js";
import { expression } from "./expression.js";
import { fonts } from "./fonts.js";
import { formula } from "./formula.js";
import { grid } from "./grid.js";
import { layout } from "./layout.js";
import { list } from "./list.js";
import { message } from "./message.js";
import { ooxml } from "./ooxml.js";
import { pdf } from "./pdf.js";
import { place } from "./place.js";
import { prepare } from "./prepare.js";
import { recipients } from "./recipients.js";
import { report } from "./report.js";
import { run } from "./run.js";
import { schema } from "./schema.js";
import { serviceAccess } from "./service-access.js";
import { serviceHealth } from "./service-health.js";
import { serviceHttp } from "./service-http.js";
import { serviceIntake } from "./service-intake.js";
import { serviceJournal } from "./service-journal.js";
import { serviceLetterbox } from "./service-letterbox.js";
import { serviceLibrary } from "./service-library.js";
import { serviceMail } from "./service-mail.js";
import { serviceOperate } from "./service-operate.js";
import { serviceOutbox } from "./service-outbox.js";
import { servicePerson } from "./service-person.js";
import { serviceProcess } from "./service-process.js";
import { serviceRecords } from "./service-records.js";
import { serviceRun } from "./service-run.js";
import { serviceSchedule } from "./service-schedule.js";
import { serviceStore } from "./service-store.js";
import { serviceThreads } from "./service-threads.js";
import { serviceWays } from "./service-ways.js";
import { slides } from "./slides.js";
import { split } from "./split.js";
import { spreadsheet } from "./spreadsheet.js";
import { table } from "./table.js";
import { template } from "./template.js";
import { workbook } from "./workbook.js";

export const english = {
  audit,
  calendar,
  command,
  common,
  definition,
  delivery,
  document,
  edition,
  enquiry,
  expression,
  fonts,
  formula,
  grid,
  layout,
  list,
  message,
  ooxml,
  pdf,
  place,
  prepare,
  recipients,
  report,
  run,
  serviceAccess,
  serviceHealth,
  serviceHttp,
  serviceIntake,
  serviceJournal,
  serviceLetterbox,
  serviceLibrary,
  serviceMail,
  serviceOperate,
  serviceOutbox,
  servicePerson,
  serviceProcess,
  serviceRecords,
  serviceRun,
  serviceSchedule,
  serviceStore,
  serviceThreads,
  serviceWays,
  schema,
  slides,
  split,
  spreadsheet,
  table,
  template,
  workbook,
};
