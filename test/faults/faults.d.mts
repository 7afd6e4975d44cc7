export interface FaultCount {
  readonly name: string;
  readonly kills: number;
  readonly due: number;
  readonly states: Readonly<Record<string, number>>;
  readonly decided: number;
  readonly received: number;
  readonly doubles: number;
  readonly strays: number;
  readonly wrong: readonly string[];
}
export const FAULTS: readonly { readonly does: string }[];
export function runFaults(options: {
  readonly kills: number;
  readonly groups: number;
  readonly seed: number;
  readonly periods?: readonly string[];
  readonly faults?: readonly { readonly does: string }[];
  readonly say?: (line: string) => void;
}): Promise<FaultCount[]>;
