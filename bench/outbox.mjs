/** Sending through the outbox beside a bare pool of connections, into the same letterbox: messages a second, and memory over many. */
import { spawn } from "node:child_process";
import { randomBytes } from "node:crypto";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { makeDatabase, startCluster } from "../scripts/lib/postgres.mjs";
import { openQueue } from "../service/dist/queue/queue.js";
import { openDatabase } from "../service/dist/records/index.js";
import { folderStore, prepareFolder } from "../service/dist/store/file-store.js";
import { recordedStore } from "../service/dist/store/recorded-store.js";

const ATTACHMENT = 50_000;
const FILES = 200;
const CONNECTIONS = 4;
const program = (name) => fileURLToPath(new URL(name, import.meta.url));

/** Measures `count` messages for the rate, before and after the yardstick, and `many` for the memory. */
export async function measureOutbox({ count, many }) {
  const data = mkdtempSync(join(tmpdir(), "corbix-bench-outbox-"));
  const cluster = await startCluster({ data: join(data, "database"), port: await freePort() });
  try {
    await makeDatabase(cluster.url, "letters");
    const letterPort = await freePort();
    const letterbox = spawn(
      process.execPath,
      [program("letterbox.mjs"), cluster.urlOf("letters"), String(letterPort)],
      {
        stdio: ["ignore", "pipe", "inherit"],
      },
    );
    await new Promise((resolve) => letterbox.stdout.once("data", resolve));
    try {
      const database = await openDatabase(cluster.url, { migrate: true });
      // The outbox starts as in a service, which has made the queue's tables.
      await (await openQueue(database, { supervise: true })).close();
      await prepareFolder(join(data, "files"), false);
      const store = recordedStore(folderStore(join(data, "files")), database);
      const files = [];
      for (let file = 0; file < FILES; file++) files.push(await store.put(randomBytes(ATTACHMENT)));
      const settings = {
        from: "Office <office@lifts.example>",
        host: "127.0.0.1",
        port: letterPort,
        security: "none",
        perMinute: 100_000,
        connections: CONNECTIONS,
      };
      await database.execute("UPDATE identities SET settings = $1", [JSON.stringify(settings)]);
      const send = (number) => throughOutbox({ database, files, number, data, url: cluster.url, letterPort });
      await send(200);
      const before = await send(count);
      const bare = await throughPool(letterPort, count);
      const after = await send(count);
      const long = many > 0 ? await send(many) : undefined;
      await database.close();
      return { outbox: (before.rate + after.rate) / 2, bare, memory: long?.memory, many };
    } finally {
      letterbox.kill("SIGTERM");
    }
  } finally {
    await cluster.stop();
    rmSync(data, { recursive: true, force: true });
  }
}

/** Waiting messages of a run, written straight into the records; a process of the outbox sends them. */
async function throughOutbox({ database, files, number, data, url, letterPort }) {
  const run = randomBytes(4).toString("hex");
  const definition = {
    report: "bench",
    title: "Bench",
    data: "none",
    split: "key",
    message: { subject: "x", body: { text: "x" } },
    delivery: { headers: {}, importance: "normal" },
  };
  await database.execute(
    "INSERT INTO report_versions (name, number, source, definition, created_by) VALUES ('bench', 1, '', $1, 'bench') ON CONFLICT DO NOTHING",
    [JSON.stringify(definition)],
  );
  await database.execute("INSERT INTO datasets (name) VALUES ('none') ON CONFLICT DO NOTHING");
  await database.execute(
    `INSERT INTO editions (dataset_id, number, origin, sha256, row_count, columns, reading, header_row, left_out, findings, created_by)
     SELECT id, 1, '', $1, 0, '[]', '{}', 1, '[]', '[]', 'bench' FROM datasets WHERE name = 'none' ON CONFLICT DO NOTHING`,
    [files[0]],
  );
  await database.execute(
    `INSERT INTO runs (id, report, report_version, period, occasion, state, edition_id, editions, templates, run_date, started_by)
     SELECT $1, 'bench', 1, $1, $1, 'held', id, '{}', '{}', 46000, 'bench' FROM editions LIMIT 1`,
    [run],
  );
  await database.execute(
    `INSERT INTO parcels (run_id, number, group_key, label, row_count, rows_digest, recipients, planned, attachments, totals, lines, state)
     SELECT $1, n, 'group ' || n, 'Group ' || n, 1, 'rows', '[]', '[]', '["statement.pdf"]', '{}', '', 'made' FROM generate_series(1, $2) AS n`,
    [run, number],
  );
  await database.execute(
    `INSERT INTO files (run_id, parcel_id, file, kind, path, sha256, size, group_key, rows_digest, provenance)
     SELECT run_id, id, 'statement', 'pdf', 'statement.pdf', ($2::text[])[1 + number % ${FILES}], ${ATTACHMENT}, group_key, 'rows',
       json_build_object('run', run_id, 'group', group_key, 'rowsDigest', 'rows') FROM parcels WHERE run_id = $1`,
    [run, files],
  );
  await database.execute(
    `INSERT INTO messages (run_id, parcel_id, group_key, subject, html, text, envelope, message_id, state)
     SELECT run_id, id, group_key, 'Statement of ' || label, '<p>Dear reader,</p><p>your statement is attached.</p>', 'Dear reader, your statement is attached.',
       json_build_object('to', json_build_array(json_build_object('address', 'person' || number || '@units.example')), 'cc', '[]'::json, 'bcc', '[]'::json),
       '<' || run_id || '.' || number || '@lifts.example>', 'held' FROM parcels WHERE run_id = $1`,
    [run],
  );
  await database.execute("ANALYZE");
  const outbox = spawn(process.execPath, [program("../service/dist/process/outbox-process.js")], {
    env: {
      PATH: process.env.PATH,
      CORBIX_ROOT: data,
      CORBIX_DATA: data,
      CORBIX_DATABASE_URL: url,
      CORBIX_MAIL_URL: `smtp://127.0.0.1:${letterPort}`,
      CORBIX_LOG_LEVEL: "silent",
    },
    stdio: ["ignore", "ignore", "inherit"],
  });
  // It looks for work before it is released, so that its start is not counted.
  await new Promise((resolve) => setTimeout(resolve, 1_500));
  await database.execute("UPDATE runs SET state = 'delivering', released_at = now() WHERE id = $1", [run]);
  await database.execute("UPDATE messages SET state = 'queued', released_at = now() WHERE run_id = $1", [run]);
  const memory = [];
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, 100));
    const [{ left, done }] = await database.select(
      "SELECT count(*) FILTER (WHERE state IN ('held', 'queued', 'sending'))::int AS left, count(*) FILTER (WHERE state = 'sent')::int AS done FROM messages WHERE run_id = $1",
      [run],
    );
    memory.push({ done, mebibytes: residentMiB(outbox.pid) });
    if (left > 0) continue;
    if (done !== number) throw new Error(`${done} of ${number} messages were sent`);
    break;
  }
  const [{ seconds }] = await database.select(
    `SELECT extract(epoch FROM max(finished_at) - min(started_at))::float AS seconds FROM attempts JOIN messages ON messages.id = attempts.message_id WHERE messages.run_id = $1`,
    [run],
  );
  const ended = new Promise((resolve) => outbox.on("exit", resolve));
  outbox.kill("SIGTERM");
  await ended;
  const at = (share) => memory.find((one) => one.done >= number * share)?.mebibytes ?? 0;
  return { rate: number / seconds, memory: { early: at(0.1), late: at(0.95) } };
}

/** The bare pool, in a process of its own. */
function throughPool(port, count) {
  return new Promise((resolve, reject) => {
    const child = spawn(
      process.execPath,
      [program("pool.mjs"), String(port), String(count), String(CONNECTIONS), String(ATTACHMENT)],
      {
        stdio: ["ignore", "pipe", "inherit"],
      },
    );
    let text = "";
    child.stdout.on("data", (chunk) => {
      text += chunk;
    });
    child.on("exit", (code) => (code === 0 ? resolve(Number(text)) : reject(new Error("the pool failed"))));
  });
}

function residentMiB(pid) {
  const kibibytes = /^VmRSS:\s*(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1];
  return Math.round(Number(kibibytes ?? 0) / 1024);
}

function freePort() {
  return new Promise((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}
