import type { Client } from "../client.js";
import type { Output } from "../output.js";

/** Runs a command's work and keeps its exit code. */
export type Work = (work: (output: Output) => Promise<number>) => Promise<void>;

/** The same with the service the command is pointed at. */
export type WithService = (work: (client: Client, output: Output) => Promise<number>) => Promise<void>;

/** An option that may be given several times. */
export const collect = (value: string, all: readonly string[]): string[] => [...all, value];

export const example = (text: string): string => `\nExample:\n  ${text}\n`;
