/**
 * Runs the demo and a report of many small groups while everything that can go wrong does, at random moments: processes are killed, or
 * frozen and thawed, the database crashes, the disk fills, the file store is away, the clock is set, two services and two outboxes
 * work on one database, and the mail server does everything wrong that it can. Then it counts what arrived. The mail server outlives
 * them all and has a database of its own.
 */
import { execFileSync, spawn } from "node:child_process";
import { createHash } from "node:crypto";
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { simpleParser } from "mailparser";
import { makeDatabase, startCluster } from "../../scripts/lib/postgres.mjs";
import { openLetterbox } from "../../service/dist/letterbox/letterbox.js";
import { openDatabase } from "../../service/dist/records/index.js";

const root = fileURLToPath(new URL("../..", import.meta.url)).replace(/\/$/, "");
/** A run that does not end by then is a failure. */
const LONGEST_MS = 600_000;
const MONTHS = [
  "2026-01",
  "2026-02",
  "2026-03",
  "2026-04",
  "2026-05",
  "2026-06",
  "2026-07",
  "2026-08",
  "2026-09",
  "2026-10",
];

/** What the mail server does wrong, one after the other. */
export const FAULTS = [
  { does: "refuse", share: 0.2 },
  { does: "defer", share: 0.3 },
  { does: "full", share: 0.3 },
  { does: "slow", share: 0.2, seconds: 0.3 },
  { does: "throttle", perSecond: 20 },
  { does: "break-before", share: 0.3 },
  { does: "break-within", share: 0.3 },
  { does: "break-after", share: 0.3 },
  { does: "lose", share: 0.3 },
  { does: "bounce", share: 0.3 },
  { does: "refuse-data", share: 0.2 },
  { does: "defer-data", share: 0.3 },
];

/** What is done to the service, with how often it is drawn; all of it passes by itself, or is taken back after a while. */
const HARMS = [
  ["kill outbox", 26],
  ["kill worker", 14],
  ["kill service", 8],
  ["crash database", 5],
  ["restart database", 3],
  ["freeze outbox", 12],
  ["freeze worker", 8],
  ["freeze service", 5],
  ["freeze for long", 3],
  ["fill disk", 5],
  ["store away", 6],
  ["clock back", 4],
  ["clock forward", 3],
];

/** Gives a line of counts for each run; `wrong` names what must not be. */
export async function runFaults({
  kills,
  groups,
  seed,
  periods = MONTHS,
  faults = FAULTS,
  harms = HARMS,
  say = () => {},
}) {
  const world = await openWorld(seed, harms);
  const counts = [];
  try {
    await world.start();
    await world.prepare(groups);
    let left = kills;
    // The demo's 26 groups, month by month, with a share of the harm; then the many small groups with the rest.
    for (const period of periods) {
      const planned = period === periods.at(-1) ? 0 : Math.round(kills / 4 / (periods.length - 1));
      const done = await world.run({ report: "site-statement", period }, Math.min(left, planned));
      left -= done.kills;
      counts.push(done);
      say(shown(done));
    }
    if (groups > 0) {
      const done = await world.run({ report: "small", period: undefined }, left);
      counts.push(done);
      say(shown(done));
    }
    for (const fault of faults) {
      const done = await world.run(
        { report: "site-statement", period: "2026-10", again: `to try ${fault.does}` },
        0,
        fault,
      );
      counts.push(done);
      say(shown(done));
    }
    say(`harm done: ${world.tally()}`);
  } finally {
    await world.close();
  }
  const sum = (of) => counts.reduce((total, one) => total + of(one), 0);
  say(
    `together: ${sum((one) => one.kills)} faults, ${sum((one) => one.due)} due, ${sum((one) => one.received)} received, ${sum((one) => one.doubles)} twice, ${sum((one) => one.strays)} to the wrong people or with a wrong file, ${sum((one) => one.wrong.length)} wrong counts`,
  );
  return counts;
}

function shown(one) {
  const states = Object.entries(one.states)
    .map(([state, count]) => `${count} ${state}`)
    .join(", ");
  return `${one.name.padEnd(34)} ${String(one.kills).padStart(3)} faults  ${String(one.due).padStart(5)} due = ${states}; decided ${one.decided}; received ${one.received}, twice ${one.doubles}, wrong ${one.strays}${one.wrong.length > 0 ? `  WRONG: ${one.wrong.join("; ")}` : ""}`;
}

const FAKETIME = "/usr/lib/x86_64-linux-gnu/faketime/libfaketime.so.1";

/** A clock that the processes of the world take for the machine's; without the library it cannot be set. */
function settableClock(folder) {
  const file = join(folder, "clock");
  const library = [FAKETIME, ...findLibrary()].find((path) => existsSync(path));
  const set = (seconds) => writeFileSync(file, seconds >= 0 ? `+${seconds}` : `${seconds}`);
  set(0);
  chmodSync(file, 0o644);
  return {
    canBeSet: library !== undefined,
    set,
    env: library
      ? {
          LD_PRELOAD: library,
          FAKETIME_TIMESTAMP_FILE: file,
          FAKETIME_NO_CACHE: "1",
          FAKETIME_DONT_FAKE_MONOTONIC: "1",
        }
      : {},
  };
}

function findLibrary() {
  const root = "/usr/lib";
  return existsSync(root) ? readdirSync(root).map((name) => join(root, name, "faketime", "libfaketime.so.1")) : [];
}

/** The file store on a file system of its own, small enough to be filled; where none can be mounted, in a plain folder. */
function storeDisk(folder) {
  const path = join(folder, "disk");
  mkdirSync(path);
  let isMounted = true;
  try {
    execFileSync("mount", ["-t", "tmpfs", "-o", "size=192m", "corbix-faults", path], { stdio: "ignore" });
  } catch {
    isMounted = false;
  }
  mkdirSync(join(path, "files"), { mode: 0o700 });
  return {
    path,
    isMounted,
    files: join(path, "files"),
    close: () => {
      if (isMounted) execFileSync("umount", ["-l", path]);
    },
  };
}

async function openWorld(seed, harms) {
  const data = mkdtempSync(join(tmpdir(), "corbix-faults-"));
  chmodSync(data, 0o755);
  const random = randomFrom(seed);
  const clock = settableClock(data);
  const disk = storeDisk(data);
  const port = await freePort();
  const start = () => startCluster({ data: join(data, "database"), port, fast: true, env: clock.env });
  let cluster = await start();
  // The letters' database stands apart, so that a crash of the service's does not touch what has arrived.
  const letterPort = await freePort();
  const letterCluster = await startCluster({ data: join(data, "letters"), port: letterPort, fast: true });
  await makeDatabase(letterCluster.url, "letters");
  const letters = await openDatabase(letterCluster.urlOf("letters"), { migrate: true });
  const log = { debug: () => {}, info: () => {}, warn: () => {}, error: () => {} };
  const reports = [];
  const letterbox = await openLetterbox(
    { database: letters, log, takeReport: async (raw) => void reports.push(raw) },
    0,
  );
  mkdirSync(join(data, "service"), { mode: 0o700 });
  symlinkSync(disk.files, join(data, "service", "files"));
  const service = new ServiceProcess(data, cluster.url, letterbox.port, clock.env);
  // A second service with workers and an outbox of its own, on the same database and the same folder.
  const second = new ServiceProcess(data, cluster.url, letterbox.port, clock.env);
  // And an outbox that nobody looks after: frozen, it stays frozen.
  const lone = new LoneOutbox(data, cluster.url, letterbox.port, clock.env);
  const records = () => openDatabase(cluster.url, { migrate: false, pool: 2 });
  const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
  const tally = new Map();
  const either = () => (random() < 0.5 ? service : second);

  /** A person looks into the mailbox and decides what nobody can know, also while what was sending is frozen. */
  const decideUnsure = async (run) => {
    const database = await records();
    try {
      const unsure = await database.select(
        "SELECT id, message_id FROM messages WHERE run_id = $1 AND state = 'unsure'",
        [run],
      );
      for (const one of unsure) {
        const got = await letters.select("SELECT 1 FROM letters WHERE message_id = $1 LIMIT 1", [one.message_id]);
        await service.patiently(`/api/v1/messages/${one.id}/decide`, {
          as: got.length > 0 ? "arrived" : "again",
          reason: "looked into the mailbox",
        });
      }
      return unsure.length;
    } finally {
      await database.close();
    }
  };

  const doHarm = {
    "kill outbox": async () => either().kill("outbox"),
    "kill worker": async () => either().kill("worker"),
    "kill service": async () => either().kill("service"),
    "crash database": async () => {
      await cluster.crash();
      await wait(300);
      cluster = await start();
    },
    "restart database": async () => {
      await cluster.stop();
      cluster = await start();
    },
    "freeze outbox": async () => either().freeze("outbox", 300 + random() * 6_000),
    "freeze worker": async () => either().freeze("worker", 300 + random() * 6_000),
    "freeze service": async () => either().freeze("service", 300 + random() * 2_500),
    // Long enough to be declared dead; its messages are decided and sent by others, and then it goes on where it stood.
    "freeze for long": async (run) => {
      service.kill("outbox");
      second.kill("outbox");
      await wait(1_200 + random() * 800);
      lone.signal("SIGSTOP");
      await wait(13_000);
      await decideUnsure(run);
      await wait(1_500);
      lone.signal("SIGCONT");
    },
    "fill disk": async () => {
      if (!disk.isMounted) return false;
      const filler = join(disk.path, "filler");
      try {
        execFileSync("dd", ["if=/dev/zero", `of=${filler}`, "bs=64k"], { stdio: "ignore" });
      } catch {
        // It ends where the disk does.
      }
      await wait(500 + random() * 3_000);
      rmSync(filler, { force: true });
    },
    "store away": async () => {
      renameSync(disk.files, `${disk.files}-away`);
      await wait(500 + random() * 4_000);
      renameSync(`${disk.files}-away`, disk.files);
    },
    "clock back": async () => {
      if (!clock.canBeSet) return false;
      clock.set(-7_200);
      await wait(500 + random() * 4_000);
      clock.set(0);
    },
    "clock forward": async () => {
      if (!clock.canBeSet) return false;
      clock.set(5_400);
      await wait(500 + random() * 4_000);
      clock.set(0);
    },
  };
  const drawHarm = () => {
    let at = random() * harms.reduce((sum, [, weight]) => sum + weight, 0);
    return (
      harms.find(([, weight]) => {
        at -= weight;
        return at < 0;
      })?.[0] ?? harms[0][0]
    );
  };
  /** Does one harm that can be done here; gives its name. */
  const harm = async (run) => {
    for (;;) {
      const what = drawHarm();
      if ((await doHarm[what](run)) === false) continue;
      tally.set(what, (tally.get(what) ?? 0) + 1);
      return what;
    }
  };

  return {
    tally: () => [...tally].map(([what, count]) => `${count} ${what}`).join(", "),
    start: async () => {
      await service.start();
      await second.start();
      lone.start();
    },
    prepare: async (groups) => {
      // Tries follow each other quickly, and the pace is no hindrance.
      await service.call("PUT", "/api/v1/identities/office", {
        settings: {
          from: "Office <office@lifts.example>",
          host: "127.0.0.1",
          port: letterbox.port,
          security: "none",
          // Slow enough to be hit in the middle.
          perMinute: 1_500,
          firstPause: 0.2,
        },
      });
      if (groups === 0) return;
      const names = Array.from({ length: groups }, (_, index) => `Unit ${String(index + 1).padStart(5, "0")}`);
      const rows = names.flatMap((name, index) => [`${name},door,${index % 90}`, `${name},brake,${index % 70}`]);
      await service.call(
        "POST",
        "/api/v1/datasets/small/editions?file=small.csv",
        `Unit,Check,Result\n${rows.join("\n")}\n`,
      );
      const list = readFileSync(`${root}/demo/files/recipients.csv`, "utf8").trimEnd().split("\n");
      const columns = list[0].split(",").length;
      const people = names.map((name, index) => [name, `Person ${index + 1}`, `person${index + 1}@units.example`]);
      const filled = people.map((one) => [...one, ...Array(Math.max(0, columns - one.length)).fill("")].join(","));
      await service.call("PUT", "/api/v1/recipients?file=list.csv", `${[...list, ...filled].join("\n")}\n`);
      await service.call(
        "PUT",
        "/api/v1/reports/small",
        [
          "report: small",
          "title: Checks of a unit",
          "data: small",
          "split: unit",
          "totals: { results: sum(line.result) }",
          "files:",
          '  checks: { table: { sheet: Checks }, name: "{{ unit }}" }',
          'message: { subject: "Checks of {{ unit }}", body: { text: "Attached." }, attach: [checks] }',
        ].join("\n"),
      );
    },
    /** One run with kills at random moments from its start to its end, and what came of it. */
    run: async (request, kills, fault) => {
      await letters.execute("DELETE FROM letters");
      await letters.execute("DELETE FROM letterbox_rules");
      reports.length = 0;
      // Where processes are killed the server is slow, so that messages are on their way when it happens.
      const slow = [
        { does: "slow", share: 0.3, seconds: 0.3 },
        { does: "slow-answer", share: 0.3, seconds: 0.3 },
      ];
      for (const rule of fault ? [fault] : kills > 0 ? slow : [])
        await letters.execute("INSERT INTO letterbox_rules (rule, created_by) VALUES ($1, 'faults')", [
          JSON.stringify({ share: 1, seconds: 2, perSecond: 5, ...rule }),
        ]);
      await new Promise((resolve) => setTimeout(resolve, 350));
      const started = await service.call(
        "POST",
        "/api/v1/runs",
        Object.fromEntries(Object.entries(request).filter(([, value]) => value !== undefined)),
      );
      let killed = 0;
      const killSome = async (until, share) => {
        const end = Date.now() + LONGEST_MS;
        for (;;) {
          const run = await service.patiently(`/api/v1/runs/${started.id}`);
          if (until.includes(run.state)) return run;
          if (Date.now() > end)
            throw new Error(`run ${started.id} is still ${run.state}: ${JSON.stringify(run.progress)}`);
          await wait(20 + random() * 500);
          if (killed < Math.ceil(kills * share)) {
            killed++;
            await harm(started.id);
          }
        }
      };
      await killSome(["held", "stopped", "failed"], 0.3);
      // Several at once want to release it: one does.
      if (!fault) await Promise.all([1, 2, 3].map(() => service.patiently(`/api/v1/runs/${started.id}/release`, {})));
      else await service.patiently(`/api/v1/runs/${started.id}/release`, {});
      await killSome(["done", "stopped", "failed"], 1);
      // What is left hits a service at rest.
      while (killed < kills) {
        killed++;
        await harm(started.id);
        await service.patiently("/api/v1/health");
      }
      for (const report of reports.splice(0)) await service.call("POST", "/api/v1/delivery-reports", report);
      const name = `${request.report} ${request.period ?? ""}${fault ? ` ${fault.does}` : ""}`;
      const database = await records();
      try {
        return { name, kills: killed, ...(await count(database, letters, service, started.id, fault)) };
      } finally {
        await database.close();
      }
    },
    close: async () => {
      lone.stop();
      await second.stop();
      await service.stop();
      await letterbox.close();
      await letters.close();
      await cluster.stop();
      await letterCluster.stop();
      disk.close();
      rmSync(data, { recursive: true, force: true });
    },
  };
}

/** Puts what arrived against what was due; messages nobody can know about are decided by looking into the letterbox, as a person would. */
async function count(database, letters, service, run, fault) {
  const wrong = [];
  const due = await database.select(
    `SELECT messages.id, messages.message_id, messages.state, messages.response, messages.envelope, messages.group_key, messages.results, parcels.id AS parcel
     FROM messages JOIN parcels ON parcels.id = messages.parcel_id WHERE messages.run_id = $1`,
    [run],
  );
  const states = Object.fromEntries(
    [...new Set(due.map((one) => one.state))]
      .sort()
      .map((state) => [state, due.filter((one) => one.state === state).length]),
  );
  const arrived = async () => letters.select("SELECT id, message_id, rcpt_to, raw FROM letters");
  let got = await arrived();
  const lost = (one) => !got.some((letter) => letter.message_id === one.message_id);
  for (const one of due) {
    if (["queued", "sending", "held"].includes(one.state)) wrong.push(`message ${one.id} is still ${one.state}`);
    if (one.state === "sent" && lost(one)) wrong.push(`message ${one.id} counts as sent and did not arrive`);
    if (one.state === "unsure" && !(one.response?.length > 20))
      wrong.push(`message ${one.id} is unsure without a word`);
    if (one.state === "refused" && !/^(?:.*\s)?5\d\d\b/.test(one.response ?? ""))
      wrong.push(`message ${one.id} was refused without the server's words: ${one.response}`);
  }
  // A refusal is told by the fault alone; every other message has to be there in the end.
  const unsure = due.filter((one) => one.state === "unsure");
  // What goes again shall meet a server that does nothing wrong any more; it reads its rules a few times a second.
  await letters.execute("DELETE FROM letterbox_rules");
  if (unsure.length > 0) await new Promise((resolve) => setTimeout(resolve, 500));
  let decided = 0;
  for (const one of unsure) {
    await service.patiently(`/api/v1/messages/${one.id}/decide`, {
      as: lost(one) ? "again" : "arrived",
      reason: "looked into the mailbox",
    });
    decided++;
  }
  if (decided > 0) await service.until(run, ["done"]);
  await new Promise((resolve) => setTimeout(resolve, 100));
  got = await arrived();
  // A message may come in two letters, each for other people: those whose mailbox was full the first time.
  const pairs = got.flatMap((letter) => letter.rcpt_to.map((address) => `${letter.message_id} ${address}`));
  const doubles = pairs.length - new Set(pairs).size;
  if (doubles > 0) wrong.push(...(await storyOfDoubles(database, letters, due)));
  const expected = due.filter((one) => one.state !== "refused" && one.state !== "skipped");
  const missing = expected.filter(lost);
  if (missing.length > 0) wrong.push(`${missing.length} did not arrive`);
  if (doubles > 0) wrong.push(`${doubles} arrived twice`);
  if (!fault && got.length !== due.length) wrong.push(`${got.length} arrived, ${due.length} were due`);
  const files = await database.select("SELECT sha256, group_key FROM files WHERE run_id = $1", [run]);
  let strays = 0;
  for (const letter of got) {
    const message = due.find((one) => one.message_id === letter.message_id);
    const people = message
      ? [...message.envelope.to, ...message.envelope.cc, ...message.envelope.bcc].map((one) => one.address)
      : [];
    const mail = await simpleParser(letter.raw);
    const isOwn =
      message !== undefined &&
      letter.rcpt_to.every((address) => people.includes(address)) &&
      mail.attachments.length > 0 &&
      mail.attachments.every((attachment) =>
        files.some(
          (file) =>
            file.group_key === message.group_key &&
            file.sha256 === createHash("sha256").update(attachment.content).digest("hex"),
        ),
      );
    if (!isOwn) strays++;
  }
  if (strays > 0) wrong.push(`${strays} letters are not their receivers'`);
  const received = new Set(got.map((letter) => letter.message_id)).size;
  return { due: due.length, states, decided, received, doubles, strays, wrong };
}

/** Every try of messages that came more than once, and when they came, so that one can see how it happened. */
async function storyOfDoubles(database, letters, due) {
  const twice = await letters.select(
    "SELECT message_id, array_agg(to_char(received_at, 'HH24:MI:SS.MS') ORDER BY id) AS at FROM letters GROUP BY message_id HAVING count(*) > 1 LIMIT 5",
  );
  const stories = [];
  for (const { message_id: messageId, at } of twice) {
    const message = due.find((one) => one.message_id === messageId);
    const tries = await database.select(
      `SELECT number, left(worker, 8) AS worker, to_char(started_at, 'HH24:MI:SS.MS') AS began, to_char(finished_at, 'HH24:MI:SS.MS') AS ended, outcome, stage, left(response, 60) AS response
       FROM attempts WHERE message_id = $1 ORDER BY id`,
      [message?.id ?? null],
    );
    const words = await database.select(
      "SELECT to_char(at, 'HH24:MI:SS.MS') AS at, what FROM actions WHERE subject = $1 ORDER BY id",
      [message?.id ?? ""],
    );
    stories.push(
      `message ${message?.id} came at ${at.join(" and ")}: ${JSON.stringify(tries)} ${JSON.stringify(words)}`,
    );
  }
  return stories;
}

/** What a process of the service is told. */
function settingsFor(data, databaseUrl, mailPort, clock) {
  return {
    PATH: process.env.PATH,
    HOME: process.env.HOME,
    ...clock,
    CORBIX_ROOT: root,
    CORBIX_DATA: join(data, "service"),
    CORBIX_DATABASE_URL: databaseUrl,
    CORBIX_LETTERBOX_PORT: "0",
    CORBIX_MAIL_URL: `smtp://127.0.0.1:${mailPort}`,
    CORBIX_MAIL_PER_MINUTE: "60000",
    CORBIX_WORKERS: "1",
    CORBIX_LOG_LEVEL: process.env.FAULTS_LOG ?? "silent",
    CORBIX_INBOX: "none",
  };
}

/** An outbox that no service looks after; where it ends, it is started again. */
class LoneOutbox {
  constructor(data, databaseUrl, mailPort, clock) {
    this.env = settingsFor(data, databaseUrl, mailPort, clock);
  }

  start() {
    this.child = spawn(process.execPath, [join(root, "service/dist/process/outbox-process.js")], {
      env: this.env,
      stdio: ["ignore", process.env.FAULTS_LOG ? "inherit" : "ignore", "inherit"],
    });
    this.child.on("exit", () => {
      if (!this.isStopping) setTimeout(() => this.isStopping || this.start(), 500);
    });
  }

  signal(name) {
    this.child.kill(name);
  }

  stop() {
    this.isStopping = true;
    this.child?.kill("SIGCONT");
    this.child?.kill("SIGKILL");
  }
}

/** The service as its own process with workers and outbox, killed or frozen as a whole or in part, and started again. */
class ServiceProcess {
  constructor(data, databaseUrl, mailPort, clock) {
    this.data = join(data, "service");
    this.env = settingsFor(data, databaseUrl, mailPort, clock);
  }

  async start() {
    this.port ??= await freePort();
    this.child = spawn(process.execPath, [join(root, "service/dist/process/main.js")], {
      env: { ...this.env, CORBIX_PORT: String(this.port) },
      stdio: ["ignore", process.env.FAULTS_LOG ? "inherit" : "ignore", "inherit"],
    });
    this.isStopping = false;
    this.child.on("exit", () => {
      // As whatever looks after the service would.
      if (!this.isStopping) this.starting = this.start().catch(() => {});
    });
    await this.ready();
  }

  async ready() {
    const end = Date.now() + 60_000;
    while (Date.now() < end) {
      const isUp = await fetch(`http://127.0.0.1:${this.port}/api/v1/health`).then(
        (response) => response.ok,
        () => false,
      );
      if (isUp && existsSync(join(this.data, "sign-in.json"))) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error("the service does not come up");
  }

  async kill(what) {
    if (what === "service") {
      this.child.kill("SIGKILL");
      await this.ready();
      return;
    }
    // It may be just being started again.
    const found = this.find(what);
    if (found) process.kill(found.pid, "SIGKILL");
  }

  find(what) {
    const wanted = what === "outbox" ? "outbox-process.js" : "worker.js";
    return childrenOf(this.child.pid).find((one) => one.command.includes(wanted));
  }

  /** Stops a process where it stands, and lets it go on after a while. */
  async freeze(what, ms) {
    const pid = what === "service" ? this.child.pid : this.find(what)?.pid;
    if (pid === undefined) return;
    const signal = (name) => {
      try {
        process.kill(pid, name);
      } catch {
        // It was replaced meanwhile.
      }
    };
    signal("SIGSTOP");
    await new Promise((resolve) => setTimeout(resolve, ms));
    signal("SIGCONT");
  }

  async call(method, path, body) {
    const { token } = JSON.parse(readFileSync(join(this.data, "sign-in.json"), "utf8"));
    const isRaw = typeof body === "string" || body instanceof Uint8Array;
    const response = await fetch(`http://127.0.0.1:${this.port}${path}`, {
      method,
      headers: {
        Authorization: `Bearer ${token}`,
        "Content-Type": isRaw ? "application/octet-stream" : "application/json",
      },
      ...(body === undefined ? {} : { body: isRaw ? body : JSON.stringify(body) }),
    });
    const answer = await response.json();
    if (!response.ok)
      throw Object.assign(new Error(`${method} ${path}: ${JSON.stringify(answer)}`), { status: response.status });
    return answer;
  }

  /** Asks until there is an answer, as a person presses a button once more; what was done already is no failure. */
  async patiently(path, body) {
    const end = Date.now() + 60_000;
    for (;;) {
      try {
        return await this.call(body === undefined ? "GET" : "POST", path, body);
      } catch (error) {
        if (error.status === 409) return {};
        if (Date.now() > end) throw error;
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    }
  }

  async until(run, states) {
    const end = Date.now() + LONGEST_MS;
    for (;;) {
      const { state } = await this.patiently(`/api/v1/runs/${run}`);
      if (states.includes(state)) return;
      if (Date.now() > end) throw new Error(`run ${run} is still ${state}`);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }

  async stop() {
    this.isStopping = true;
    await this.starting;
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((resolve) => child.on("exit", resolve));
    child.kill("SIGTERM");
    await ended;
  }
}

/** Processes that another has started, with their command lines. */
function childrenOf(parent) {
  return readdirSync("/proc").flatMap((name) => {
    if (!/^\d+$/.test(name)) return [];
    try {
      const status = readFileSync(`/proc/${name}/status`, "utf8");
      if (Number(/^PPid:\s*(\d+)/m.exec(status)?.[1]) !== parent) return [];
      return [{ pid: Number(name), command: readFileSync(`/proc/${name}/cmdline`, "utf8") }];
    } catch {
      return [];
    }
  });
}

function randomFrom(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

function freePort() {
  return new Promise((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}
