import type { EvaluationContext } from "../../evaluation-context.js";

/** A number from 0 up to 1 that hangs on the run's instant and the cell alone: the same run gives the same file. */
export function chance(context: EvaluationContext, more = 0): number {
  let state = Math.imul(
    Math.round(context.now * 86_400) ^ (context.row * 16_411 + context.column * 7919 + context.sheet + more * 104_729),
    0x9e3779b1,
  );
  state = Math.imul(state ^ (state >>> 15), 0x85ebca6b);
  state = Math.imul(state ^ (state >>> 13), 0xc2b2ae35);
  return ((state ^ (state >>> 16)) >>> 0) / 4_294_967_296;
}
