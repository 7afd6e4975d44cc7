import { counted, sizeText } from "./numbers.js";

export const serviceOperate = {
  programMissing: ({ name, major }: { name: string; major: number }) =>
    `Cannot find ${name} of version ${major} or newer, which reads a database of that version.`,
  installClient: ({ major }: { major: number }) => `Install the package postgresql-client-${major}, or a newer one.`,
  noManifest: () => "This is no backup: it has no manifest.",
  nameBackup: () => "Name a folder that `corbix backup` has written to, or one of the backups in it.",
  manifestChanged: () => "The backup's manifest is not as it was written.",
  useAnother: () => "Use another backup.",
  manifestOfOther: ({ problems }: { problems: string }) =>
    `This version cannot read the backup's manifest: ${problems}`,
  useNewer: () => "Use the version of Corbix that took it, or a newer one.",
  listChanged: () => "The list of the backup's files is not as it was written.",
  backupThere: () => "Cannot take a backup: there is one of this second already.",
  backupWithin: () => "Cannot take a backup into the data folder: it would be lost with what it is of.",
  backupElsewhere: () => "Name a folder elsewhere, best on another disk.",
  noRoom: ({ needed, free }: { needed: number; free: number }) =>
    `There is no room: about ${sizeText(needed)} are needed, and ${sizeText(free)} are free. Nothing was changed.`,
  makeRoom: () => "Make room, then try again.",
  cannotDump: ({ words }: { words: string }) => `Cannot read the database out: ${words}`,
  cannotRestore: ({ words }: { words: string }) => `Cannot read the database in: ${words}`,
  noBackup: ({ name }: { name: string | undefined }) =>
    name === undefined ? "Cannot find a backup here." : `Cannot find the backup ${name} here.`,
  thereAre: ({ names }: { names: string }) => `There are ${names}.`,
  notWhole: ({ count, first }: { count: number; first: string }) =>
    `The backup is not whole: ${counted(count, "file is", "files are")} damaged or missing, first ${first}. Nothing was restored.`,
  folderTaken: () => "Cannot restore: there are files already, which are never written over.",
  databaseTaken: ({ tables }: { tables: number }) =>
    `Cannot restore: the database is not empty, it has ${counted(tables, "table", "tables")}.`,
  restoreElsewhere: () =>
    "Set CORBIX_DATA to a new folder, and CORBIX_DATABASE_URL, where it is set, to an empty database.",
  noJournal: () => "Cannot find a journal of what left in this folder.",
  nameJournal: () => "Name the data folder that the backup was taken from, or its folder `left`.",
  olderServer: ({ server, taken }: { server: string; taken: string }) =>
    `Cannot restore into PostgreSQL ${server}: the backup was taken from ${taken}.`,
  newerServer: ({ major }: { major: number }) => `Use a server of version ${major} or newer.`,
  rowsDiffer: ({ tables }: { tables: string }) =>
    `Tables have other numbers of rows than the manifest tells: ${tables}.`,
  stillRuns: ({ count }: { count: number }) =>
    `Cannot upgrade: ${counted(count, "process of the service runs", "processes of the service run")} on this database.`,
  endFirst: () => "End the service on all machines first.",
  keyIsSetting: () => "Cannot change the key: it is given by a setting, and so has to be the one after it.",
  giveKeyFile: () =>
    "Name a file with the other key (--key-file), and set CORBIX_SECRET_KEY to it before the next start.",
  keyTooShort: ({ least }: { least: number }) => `Cannot use this key: it has fewer than ${least} signs.`,
  dataFolder: () => "Data folder",
  publicAddress: () => "Address",
  certificate: () => "Certificate",
  structure: () => "Structure of the database",
  key: () => "Key of secrets",
  encoding: () => "Encoding of the database",
  connections: () => "Connections",
  backups: () => "Program for backups",
  fileStore: () => "File store",
  journal: () => "Journal of what left",
  fonts: () => "Fonts",
  sending: () => "Sending",
  nodeTooOld: () => "Install Node.js 20.20 or newer.",
  folderFacts: ({ path, free }: { path: string; free: number }) => `${path}, ${sizeText(free)} free`,
  closeFolder: ({ path }: { path: string }) => `Others on this machine may look into it: chmod o-rw ${path}.`,
  letWrite: ({ path }: { path: string }) => `Let the user that Corbix runs under write there: chown corbix ${path}.`,
  noAddress: () => "no address is set: links in mails lead to this machine alone",
  setAddress: () => "Set CORBIX_PUBLIC_URL, such as https://corbix.lifts.example.",
  useTls: () => "Passwords go over an open line: use an address that begins with https.",
  openHost: ({ host }: { host: string }) => `listens on ${host} without TLS of its own`,
  closeHost: () => "Listen on 127.0.0.1 behind the proxy, or give a certificate.",
  emptyDatabase: () => "empty: the first start makes it",
  olderStructure: ({ count }: { count: number }) =>
    `of an older version: ${counted(count, "change is", "changes are")} needed`,
  runUpgrade: () => "Run corbix upgrade --out FOLDER, or start, which does it without a backup.",
  newestStructure: ({ name }: { name: string }) => `of this version, ${name}`,
  serverTooOld: ({ oldest }: { oldest: number }) => `Use PostgreSQL ${oldest} or newer.`,
  useUtf8: () => "Make the database with ENCODING 'UTF8'.",
  moreConnections: ({ needed }: { needed: number }) =>
    `Let the server take ${needed} connections or more (max_connections).`,
  turnFsyncOn: () => "Turn fsync on: without it a power cut can take back what was sent.",
  keyInFolder: () => "in the data folder",
  keepCopy: () => "Keep a copy elsewhere: it is in no backup.",
  keyFromSettings: () => "from the settings",
  journalFacts: ({ count }: { count: number }) => counted(count, "file", "files"),
  fontFacts: ({ count }: { count: number }) =>
    count === 0
      ? "those that come along"
      : `those that come along, and ${counted(count, "file", "files")} of one's own`,
  exampleDomain: ({ domain }: { domain: string }) => `${domain} is for examples: real servers take nothing from it`,
  setSender: () => "Set the identity's sender to an address of your own.",
  cannotAsk: ({ why }: { why: string }) => `cannot be asked from here: ${why}`,
  askElsewhere: () => "Ask the DNS from a machine that reaches it.",
  unsigned: () => "messages are not signed",
  signMessages: () => "Give the identity a domain, a selector and a private key (dkim).",
  correctIdentity: () => "Correct the identity under Identities, or the mail server.",
  openLine: () => "takes mail over an open line",
  useStarttls: () => "Let the identity use starttls or tls.",
  serverTakes: ({ security, user }: { security: string; user: string | undefined }) =>
    `answers${security === "none" ? "" : `, encrypted (${security})`}${user === undefined ? "" : ", lets the identity in"}`,
  takesAlready: ({ pid }: { pid: number }) => `Cannot take a backup: process ${pid} takes one into this folder now.`,
  waitForIt: () => "Wait until it is done, or name another folder.",
  unfinishedRestore: () => "Cannot start: restoring a backup into this folder was broken off.",
  restoreAnew: () => "Empty this folder and the database, and restore again.",
};
