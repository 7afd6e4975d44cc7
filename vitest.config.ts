import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["*/test/**/*.test.ts", "test/**/*.test.ts"],
    globalSetup: ["test/setup/cluster.ts"],
    reporters: ["default", "./test/setup/closing-line.ts"],
    testTimeout: 60_000,
    hookTimeout: 120_000,
    pool: "forks",
    maxWorkers: 2,
  },
});
