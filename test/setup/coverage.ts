import { takeCoverage } from "node:v8";
import { afterAll } from "vitest";

// `npm run coverage:service` measures all processes; the one that tests run in is ended before it would write its own down.
if (process.env.NODE_V8_COVERAGE) afterAll(() => takeCoverage());
