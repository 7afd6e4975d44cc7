import { CorbixError, type ErrorCode } from "@corbix/core/common";

/** An error as it crosses from a thread. */
export interface ThrownError {
  readonly code: ErrorCode | undefined;
  readonly message: string;
  readonly where: string | undefined;
  readonly advice: string | undefined;
}

export function thrownError(error: unknown): ThrownError {
  if (error instanceof CorbixError)
    return { code: error.code, message: error.message, where: error.where, advice: error.advice };
  return { code: undefined, message: (error as Error)?.message ?? String(error), where: undefined, advice: undefined };
}
