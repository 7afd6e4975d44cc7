import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { createServer, type RequestListener } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { readZip } from "@corbix/core/ooxml";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { startRun } from "../../dist/run/start-run.js";

let service: TestService;
let run: string;
const share = mkdtempSync(join(tmpdir(), "corbix-share-"));
const { load, report, plan, refusal, select } = smallOffice(() => service);
const bytesOf = async (path: string) =>
  new Uint8Array(
    await (
      await fetch(service.url + path, { headers: { Authorization: `Bearer ${service.signIn.token}` } })
    ).arrayBuffer(),
  );
const write = (body: object, id = run) => refusal("POST", `/api/v1/runs/${id}/folder`, body);

beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_OUT_FOLDER: share });
  await load("lifts", "site,unit\nDock,L1\nMill,L2\nQuay,L3\n");
  await report("lifts", "data: lifts\nonce: hand");
  run = await plan({ report: "lifts" }, { release: false });
});
afterAll(async () => {
  await service?.close();
  rmSync(share, { recursive: true, force: true });
});

describe("files handed out", () => {
  it("are those of a run that made them, of all groups or of one, on a share that is named whole", async () => {
    const planning = await startRun(service.context, { report: "lifts" }, "test");
    expect((await refusal("GET", `/api/v1/runs/${planning.id}/files.zip`)).title).toBe(
      "Cannot hand out the files: the run is planning.",
    );
    const zip = [...readZip(await bytesOf(`/api/v1/runs/${run}/files.zip?group=Mill`), "zip")];
    expect(zip.map(({ name }) => name)).toEqual(["Mill/Mill.xlsx"]);
    expect((await write({ folder: "october", perGroup: false })).status).toBe(200);
    expect(readdirSync(join(share, "october")).sort()).toEqual(["Dock.xlsx", "Mill.xlsx", "Quay.xlsx"]);
    expect((await refusal("GET", `/api/v1/runs/${run}/print.pdf`)).title).toBe("Cannot print the run: it has no PDFs.");
  });

  it("are written all or none: what stands in the place of one takes the others back", async () => {
    mkdirSync(join(share, "taken", "Mill.xlsx"), { recursive: true });
    const said = await write({ folder: "taken", perGroup: false });
    expect([said.status, said.title]).toEqual([
      409,
      `Cannot write "${join(share, "taken", "Mill.xlsx")}": another file of that name is there.`,
    ]);
    expect(readdirSync(join(share, "taken"))).toEqual(["Mill.xlsx"]);
    // A file where a folder would be made.
    writeFileSync(join(share, "plain"), "a file");
    expect((await write({ folder: "plain", perGroup: true })).status).toBeGreaterThanOrEqual(400);
    expect(readdirSync(share).sort()).toEqual(["october", "plain", "taken"]);
  });

  it("are refused where two of them would be one, or too much for one zip file", async () => {
    await service.call(
      "PUT",
      "/api/v1/reports/folders",
      'report: folders\ntitle: Folders\ndata: lifts\nonce: hand\nsplit: site\nfiles:\n  one: { name: "{{ site }}", table: {} }\n  two: { name: rows, folder: "{{ site }}.xlsx", table: {} }\n',
    );
    const clashing = await plan({ report: "folders" }, { release: false });
    const said = await write({ folder: "clashing", perGroup: false }, clashing);
    expect([said.code, said.title]).toEqual([
      "CONFLICT",
      'Cannot write "Dock.xlsx/rows.xlsx" beside "Dock.xlsx": for many file systems they are one.',
    ]);
    await select("UPDATE files SET size = 2000000000 WHERE run_id = $1", [clashing]);
    expect((await refusal("GET", `/api/v1/runs/${clashing}/files.zip`)).code).toBe("LIMIT_EXCEEDED");
  });

  it("are never another group's, whatever the records say, nor written beside the folder", async () => {
    const other = await plan({ report: "lifts" }, { release: false });
    await select("UPDATE files SET path = '../../' || path WHERE run_id = $1", [other]);
    expect((await write({ folder: "", perGroup: false }, other)).code).toBe("NOT_ALLOWED");
    await select("UPDATE files SET group_key = 'quay' WHERE run_id = $1 AND group_key = 'dock'", [other]);
    expect((await refusal("GET", `/api/v1/runs/${other}/files.zip`)).code).toBe("PROVENANCE_MISMATCH");
    const gone = await plan({ report: "lifts" }, { release: false });
    await select("UPDATE files SET removed_at = now() WHERE run_id = $1", [gone]);
    expect((await refusal("GET", `/api/v1/runs/${gone}/files.zip`)).title).toContain(
      "it was deleted when its time was over",
    );
  });
});

describe("a web folder", () => {
  it("that takes anybody, or refuses some of it, is told apart", async () => {
    const asked: string[] = [];
    const answer: { put: number } = { put: 201 };
    const web = await listening((request, response) => {
      request.resume().on("end", () => {
        asked.push(`${request.method} ${request.url} ${request.headers.authorization ?? "nobody"}`);
        response.writeHead(request.method === "PUT" ? answer.put : 405).end();
      });
    });
    const put = (more: object = {}) =>
      refusal("POST", `/api/v1/runs/${run}/web-folder`, { url: `${web.url}/in/`, groups: ["Dock"], ...more });
    expect((await put()).status).toBe(200);
    expect(asked).toEqual(["MKCOL /in/Dock/ nobody", "PUT /in/Dock/Dock.xlsx nobody"]);
    await put({ url: `${web.url}/in`, user: "office" });
    expect(asked[3]).toBe(`PUT /in/Dock/Dock.xlsx Basic ${Buffer.from("office:").toString("base64")}`);
    answer.put = 507;
    const full = await put();
    expect([full.title, full.advice]).toEqual([
      'Cannot put "Dock/Dock.xlsx": it answered 507.',
      "0 files were put before.",
    ]);
    await web.close();
  });
});

async function listening(answer: RequestListener) {
  const server = createServer(answer).listen(0, "127.0.0.1");
  await new Promise((resolve) => server.once("listening", resolve));
  const { port } = server.address() as { port: number };
  return {
    url: `http://127.0.0.1:${port}`,
    close: () =>
      new Promise((resolve) => {
        server.closeAllConnections();
        server.close(resolve);
      }),
  };
}
