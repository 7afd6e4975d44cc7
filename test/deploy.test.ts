/** Putting into service: units as systemd reads them, the image's steps, a proxy with TLS that is a real one. */
import { execFileSync, spawnSync } from "node:child_process";
import { createHash, randomBytes } from "node:crypto";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { request } from "node:https";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { readSettings } from "../service/dist/process/settings.js";
import { type Papers, papersFor } from "./setup/papers.js";
import { type TestService, testService } from "./setup/service.js";
import { freePort, started } from "./setup/ways-servers.js";

const root = process.cwd();
const deploy = join(root, "deploy");
const folder = mkdtempSync(join(tmpdir(), "corbix-deploy-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe("units for systemd", () => {
  const units = readdirSync(deploy).filter((name) => /\.(service|timer)$/.test(name));
  // As they would stand in a machine where Corbix lies in /opt/corbix.
  const here = (text: string): string =>
    text.replaceAll("/opt/corbix", root).replaceAll("/usr/bin/node", process.execPath);

  it("are read by systemd without a word", () => {
    expect(units.sort()).toEqual(["corbix-backup.service", "corbix-backup.timer", "corbix.service"]);
    for (const name of units) writeFileSync(join(folder, name), here(readFileSync(join(deploy, name), "utf8")));
    const said = execFileSync("systemd-analyze", ["verify", ...units.map((name) => join(folder, name))], {
      encoding: "utf8",
      stdio: ["ignore", "pipe", "pipe"],
    });
    expect(said).toBe("");
  });

  it("leave the service little that it could do besides its work", () => {
    const said = execFileSync(
      "systemd-analyze",
      ["security", "--offline=true", "--no-pager", join(folder, "corbix.service")],
      { encoding: "utf8" },
    );
    const exposure = Number(/Overall exposure level[^:]*: ([\d.]+)/.exec(said)?.[1]);
    expect(exposure).toBeGreaterThan(0);
    expect(exposure).toBeLessThan(2);
  });

  it("start programs that are there, with settings that can be used and commands that there are", () => {
    const help = execFileSync("node", [join(root, "cli/bin/corbix.mjs"), "--help"], { encoding: "utf8" });
    for (const name of units.filter((one) => one.endsWith(".service"))) {
      const text = readFileSync(join(folder, name), "utf8");
      const commands = [...text.matchAll(/^ExecStart(?:Pre)?=(\S+) (\S+)(?: (\S+))?/gm)];
      expect(commands.length).toBeGreaterThan(0);
      for (const [, program = "", script = "", verb] of commands) {
        expect([program, existsSync(program)]).toEqual([program, true]);
        expect([script, existsSync(script)]).toEqual([script, true]);
        if (verb) expect(help).toMatch(new RegExp(`^  ${verb} `, "m"));
      }
      const variables = [...text.matchAll(/^Environment=(CORBIX_\w+)=/gm)].map(([, one]) => one ?? "");
      const known = readFileSync(join(root, "docs/operating.md"), "utf8");
      for (const variable of variables.filter((one) => !["CORBIX_ROOT", "CORBIX_SETTINGS"].includes(one)))
        expect(known).toContain(`\`${variable.replace(/_FILE$/, "")}\``);
    }
    writeFileSync(join(folder, "key"), "a key of the service manager\n");
    const settings = readSettings(
      { CORBIX_SETTINGS: join(deploy, "corbix.yaml"), CORBIX_SECRET_KEY_FILE: join(folder, "key") },
      root,
    );
    expect(settings).toMatchObject({
      publicUrl: "https://corbix.lifts.example",
      secretKey: "a key of the service manager",
    });
  });
});

describe("the image", () => {
  it("is made by steps that this project has, and starts what is there", () => {
    const text = readFileSync(join(deploy, "Containerfile"), "utf8");
    const { scripts } = JSON.parse(readFileSync(join(root, "package.json"), "utf8")) as {
      scripts: Record<string, string>;
    };
    for (const [, name = ""] of text.matchAll(/^RUN npm run (\S+)/gm)) expect(Object.keys(scripts)).toContain(name);
    const [, started = ""] = /^ENTRYPOINT \["node", "([^"]+)"\]/m.exec(text) ?? [];
    expect(existsSync(join(root, started))).toBe(true);
    // It runs as nobody in particular, and looks after its own health by an address that there is.
    expect(text).toMatch(/^USER corbix$/m);
    expect(text).toContain("/health/ready");
  });
});

describe("what Corbix is made of", () => {
  it("is listed as CycloneDX has it: every package that runs, with version, licence and digest, and none of a machine's paths", () => {
    const file = join(folder, "made-of.cdx.json");
    execFileSync("node", [join(root, "scripts/sbom.mjs"), file], { cwd: root });
    const text = readFileSync(file, "utf8");
    interface Component {
      readonly name: string;
      readonly version: string;
      readonly purl: string;
      readonly licenses?: readonly object[];
      readonly hashes?: readonly { readonly alg: string; readonly content: string }[];
    }
    const told = JSON.parse(text) as {
      bomFormat: string;
      specVersion: string;
      metadata: { component: Component };
      components: Component[];
    };
    expect([told.bomFormat, Number(told.specVersion) >= 1.5, told.metadata.component.name]).toEqual([
      "CycloneDX",
      true,
      "corbix",
    ]);
    expect(text).not.toContain(root);
    const { dependencies } = JSON.parse(readFileSync(join(root, "service/package.json"), "utf8")) as {
      dependencies: Record<string, string>;
    };
    const names = new Map(
      told.components.map((one) => [decodeURIComponent(one.purl).replace(/^pkg:npm\/|@[^@]+$/g, ""), one]),
    );
    for (const name of Object.keys(dependencies)) expect([name, names.has(name)]).toEqual([name, true]);
    for (const [name, one] of names)
      if (!name.startsWith("@corbix/")) expect([name, one.hashes?.[0]?.alg]).toEqual([name, "SHA-512"]);
    // What the console's build takes in runs in browsers; what only tests and builds need does not run.
    for (const name of ["svelte", "carbon-components-svelte", "pdfjs-dist", "prosemirror-view"])
      expect([name, names.has(name)]).toEqual([name, true]);
    for (const name of ["vitest", "playwright-core", "oidc-provider"])
      expect([name, names.has(name)]).toEqual([name, false]);
  });

  it("is asked about at the registry, and where that does not answer nothing is said to be well", () => {
    const { status, stdout } = spawnSync("node", [join(root, "scripts/audit.mjs")], {
      cwd: root,
      encoding: "utf8",
      env: { ...process.env, npm_config_registry: "http://127.0.0.1:1/", npm_config_fetch_retries: "0" },
    });
    expect(status).toBe(9);
    expect(stdout).toContain("Nothing was checked");
  });
});

describe("behind a proxy with TLS", () => {
  let papers: Papers;
  let service: TestService;
  let stop: () => Promise<void>;
  let port: number;
  let openPort: number;

  beforeAll(async () => {
    papers = await papersFor({ type: "dns", value: "corbix.lifts.example" });
    [port, openPort] = [await freePort(), await freePort()];
    service = await testService(inject("databaseUrl"), {
      CORBIX_WORKERS: "0",
      CORBIX_TRUSTED_PROXIES: "127.0.0.1",
      CORBIX_PUBLIC_URL: "https://corbix.lifts.example",
      CORBIX_METRICS_TOKEN: randomBytes(16).toString("hex"),
    });
    writeFileSync(join(folder, "fullchain.pem"), papers.cert);
    writeFileSync(join(folder, "privkey.pem"), papers.key);
    const site = readFileSync(join(deploy, "nginx-corbix.conf"), "utf8")
      .replaceAll("/etc/ssl/corbix", folder)
      .replaceAll("http://127.0.0.1:8320", service.url)
      .replace(/listen \[::\].*\n/g, "")
      .replace("listen 80;", `listen 127.0.0.1:${openPort};`)
      .replace("listen 443 ssl;", `listen 127.0.0.1:${port} ssl;`);
    for (const name of ["body", "proxy", "fastcgi", "uwsgi", "scgi"]) mkdirSync(join(folder, name));
    const temporary = [
      "client_body_temp_path body",
      "proxy_temp_path proxy",
      "fastcgi_temp_path fastcgi",
      "uwsgi_temp_path uwsgi",
      "scgi_temp_path scgi",
    ];
    writeFileSync(
      join(folder, "nginx.conf"),
      `daemon off;\nuser ${process.getuid?.() === 0 ? "root" : "nobody"};\npid ${folder}/nginx.pid;\nerror_log stderr;\nevents {}\nhttp {\naccess_log off;\n${temporary.map((one) => one.replace(/ (\w+)$/, ` ${folder}/$1`)).join(";\n")};\n${site}\n}\n`,
    );
    stop = await started("nginx", ["-c", join(folder, "nginx.conf"), "-p", folder], port);
  });
  afterAll(async () => {
    await stop?.();
    await service?.close();
  });

  interface Answer {
    readonly status: number | undefined;
    readonly headers: Readonly<Record<string, string | string[] | undefined>>;
    readonly body: string;
  }
  const call = (
    method: string,
    path: string,
    body?: string | Buffer,
    headers: Record<string, string> = {},
  ): Promise<Answer> =>
    new Promise((resolve, reject) => {
      const sent = request(
        {
          host: "127.0.0.1",
          port,
          servername: "corbix.lifts.example",
          method,
          path,
          ca: papers.authority,
          headers: { Host: "corbix.lifts.example", ...headers },
        },
        (answer) => {
          let text = "";
          answer.on("data", (chunk) => {
            text += chunk;
          });
          answer.on("end", () => resolve({ status: answer.statusCode, headers: answer.headers, body: text }));
        },
      );
      sent.on("error", reject);
      sent.end(body);
    });
  const token = () => ({ Authorization: `Bearer ${service.signIn.token}` });

  it("people sign in over TLS, and an open address leads there", async () => {
    const { name, password } = service.signIn;
    const session = await call("POST", "/api/v1/session", JSON.stringify({ name, password }), {
      "Content-Type": "application/json",
      Origin: "https://corbix.lifts.example",
    });
    expect(session.status).toBe(201);
    const cookie = String(session.headers["set-cookie"]);
    expect(cookie).toMatch(/; Secure/);
    const self = await call("GET", "/api/v1/self", undefined, { Cookie: cookie.split(";")[0] ?? "" });
    expect(JSON.parse(self.body)).toMatchObject({ name });
    expect(session.headers["strict-transport-security"]).toBeDefined();
    const open = await fetch(`http://127.0.0.1:${openPort}/some/page`, {
      redirect: "manual",
      headers: { Host: "corbix.lifts.example" },
    });
    expect([open.status, open.headers.get("location")?.startsWith("https://")]).toEqual([301, true]);
  });

  it("who calls is known by the proxy's word, and nobody can say it for it", async () => {
    for (let at = 0; at < 3; at++)
      await call("POST", "/api/v1/session", JSON.stringify({ name: "office", password: "wrong" }), {
        "Content-Type": "application/json",
        "X-Forwarded-For": `203.0.113.${at}`,
      });
    const trail = JSON.parse((await call("GET", "/api/v1/trail?limit=3", undefined, token())).body) as {
      items: { from: string }[];
    };
    expect(trail.items.map(({ from }) => from)).toEqual(["127.0.0.1", "127.0.0.1", "127.0.0.1"]);
  });

  it("large tables go through as they come, whole", async () => {
    const table = Buffer.from(
      `site,note\n${Array.from({ length: 60_000 }, (_, at) => `Site ${at},${randomBytes(100).toString("hex")}`).join("\n")}\n`,
    );
    expect(table.length).toBeGreaterThan(10_000_000);
    const made = await call("POST", "/api/v1/datasets/large/editions?file=large.csv", table, {
      ...token(),
      "Content-Type": "application/octet-stream",
    });
    expect(made.status).toBe(201);
    const back = await call("GET", "/api/v1/datasets/large/editions/1/file", undefined, token());
    expect(createHash("sha256").update(back.body).digest("hex")).toBe(createHash("sha256").update(table).digest("hex"));
  });

  it("what changes is told as it happens, and what is for inside is not shown", async () => {
    const heard = new Promise<string>((resolve, reject) => {
      const stream = request(
        {
          host: "127.0.0.1",
          port,
          servername: "corbix.lifts.example",
          path: "/api/v1/events",
          ca: papers.authority,
          headers: { Host: "corbix.lifts.example", ...token() },
        },
        (answer) => {
          let text = "";
          answer.on("data", (chunk) => {
            text += chunk;
            if (!text.includes("halt")) {
              if (text.length > 0 && !isAsked) {
                isAsked = true;
                call("POST", "/api/v1/halts", JSON.stringify({ reason: "tried by a test" }), {
                  ...token(),
                  "Content-Type": "application/json",
                }).catch(reject);
              }
              return;
            }
            stream.destroy();
            resolve(text);
          });
        },
      );
      let isAsked = false;
      stream.on("error", reject);
      stream.end();
    });
    expect(await heard).toContain("halt");
    for (const path of ["/metrics", "/health/ready"]) expect((await call("GET", path)).status).toBe(404);
    expect((await call("GET", "/health/live")).status).toBe(200);
  });
});
