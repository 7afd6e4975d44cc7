import { fileURLToPath } from "node:url";
import { playwright } from "@vitest/browser-playwright";
import { defineConfig } from "vitest/config";
import { CHROMIUM } from "./scripts/lib/chromium.mjs";

const root = fileURLToPath(new URL(".", import.meta.url));

/** Kills and faults keep both cores busy with processes of their own: they come after everything else. */
const FAULTS = "test/faults.test.ts";

/** What is built runs as it is, as it does for users. */
const BUILT = { deps: { external: [/\/dist\//] } };

export default defineConfig({
  test: {
    reporters: ["default", "./test/setup/closing-line.ts"],
    // A limit for what hangs, not for what is slow: machines differ by a factor of ten.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    expect: { poll: { timeout: 120_000 } },
    pool: "forks",
    maxWorkers: 2,
    // `npm run coverage`: of the core, by its own tests. The floors are what was reached; they only rise.
    coverage: {
      provider: "v8",
      include: ["core/src/**/*.ts"],
      reporter: ["text-summary", "json-summary"],
      reportsDirectory: "coverage",
      thresholds: {
        lines: 97,
        branches: 88,
        "core/src/run/**": { branches: 95 },
        "core/src/split/**": { branches: 98 },
        "core/src/delivery/**": { branches: 95 },
      },
    },
    projects: [
      {
        extends: true,
        // From source, so that a change is seen without a build.
        resolve: { alias: [{ find: /^@corbix\/core\/(\w+)$/, replacement: `${root}core/src/$1/index.ts` }] },
        // The core keeps no state: its modules are loaded once for all files.
        test: {
          name: "core",
          include: ["core/test/**/*.test.ts"],
          isolate: false,
          sequence: { groupOrder: 0 },
        },
      },
      {
        extends: true,
        test: {
          name: "corbix",
          include: ["*/test/**/*.test.ts", "test/**/*.test.ts"],
          exclude: ["core/**", "console/**", FAULTS],
          // What is built is loaded once for all files: nothing in it is replaced by tests, and each starts services of its own.
          isolate: false,
          globalSetup: ["test/setup/cluster.ts"],
          setupFiles: ["test/setup/coverage.ts"],
          server: BUILT,
          sequence: { groupOrder: 0 },
        },
      },
      {
        extends: true,
        test: {
          name: "console",
          include: ["console/test/**/*.test.ts"],
          exclude: ["console/test/parts/**"],
          sequence: { groupOrder: 0 },
        },
      },
      {
        // Parts of the console as a browser draws them, each for itself.
        extends: "./console/vite.config.ts",
        root: `${root}console`,
        test: {
          name: "parts",
          include: ["test/parts/**/*.test.ts"],
          setupFiles: ["test/parts/setup.ts"],
          globalSetup: ["test/parts/provide.ts"],
          testTimeout: 60_000,
          sequence: { groupOrder: 0 },
          browser: {
            enabled: true,
            headless: true,
            screenshotFailures: false,
            provider: playwright({ launchOptions: CHROMIUM, contextOptions: { locale: "en-GB" } }),
            instances: [{ browser: "chromium" }],
          },
        },
      },
      { extends: true, test: { name: "faults", include: [FAULTS], server: BUILT, sequence: { groupOrder: 1 } } },
    ],
  },
});
