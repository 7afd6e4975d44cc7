import type { Reporter, TestModule } from "vitest/node";

/** Ends the run with one plain line that any reader of logs understands. */
export default class ClosingLine implements Reporter {
  onTestRunEnd(modules: readonly TestModule[], errors: readonly unknown[]): void {
    let passed = 0;
    let failed = errors.length;
    for (const module of modules) {
      if (module.state() === "failed" && [...module.children.allTests()].length === 0) failed++;
      for (const test of module.children.allTests()) {
        const { state } = test.result();
        if (state === "passed") passed++;
        else if (state === "failed") failed++;
      }
    }
    process.stdout.write(`\nTests: ${passed} passed, ${failed} failed\n`);
  }
}
