/** Everything that can be thrown on purpose: code, HTTP status, exit code of the command, whether trying again can help. */
export const ERRORS = {
  NOT_A_WORKBOOK: { status: 422, exit: 3, retry: false },
  NOT_A_DOCUMENT: { status: 422, exit: 3, retry: false },
  NOT_A_DECK: { status: 422, exit: 3, retry: false },
  BROKEN_PACKAGE: { status: 422, exit: 3, retry: false },
  BROKEN_XML: { status: 422, exit: 3, retry: false },
  LIMIT_EXCEEDED: { status: 413, exit: 3, retry: false },
  PASSWORD_NEEDED: { status: 422, exit: 3, retry: false },
  NO_TABLE: { status: 422, exit: 3, retry: false },
  BAD_TABLE_FILE: { status: 422, exit: 3, retry: false },
  BAD_EXPRESSION: { status: 422, exit: 4, retry: false },
  BAD_MARK: { status: 422, exit: 4, retry: false },
  BAD_DEFINITION: { status: 422, exit: 4, retry: false },
  BAD_PERIOD: { status: 422, exit: 4, retry: false },
  BAD_RULE: { status: 422, exit: 4, retry: false },
  BAD_RECORD: { status: 422, exit: 4, retry: false },
  UNKNOWN_FONT: { status: 500, exit: 1, retry: false },
  BAD_REQUEST: { status: 400, exit: 4, retry: false },
  NOT_SIGNED_IN: { status: 401, exit: 5, retry: false },
  SECOND_FACTOR_NEEDED: { status: 401, exit: 5, retry: false },
  TOO_MANY_TRIES: { status: 429, exit: 5, retry: false },
  NOT_ALLOWED: { status: 403, exit: 5, retry: false },
  NOT_FOUND: { status: 404, exit: 6, retry: false },
  CONFLICT: { status: 409, exit: 7, retry: false },
  CHANGED_MEANWHILE: { status: 412, exit: 7, retry: false },
  KEY_REUSED: { status: 422, exit: 4, retry: false },
  STOPPED_BY_FINDING: { status: 409, exit: 8, retry: false },
  PROVENANCE_MISMATCH: { status: 409, exit: 8, retry: false },
  UNKNOWN_NAME: { status: 422, exit: 6, retry: false },
  METHOD_NOT_ALLOWED: { status: 405, exit: 4, retry: false },
  FAILED: { status: 500, exit: 1, retry: false },
  NO_SPACE: { status: 507, exit: 9, retry: true },
  STORE_AWAY: { status: 503, exit: 9, retry: true },
  FILE_MISSING: { status: 500, exit: 1, retry: true },
  DATABASE_UNREACHABLE: { status: 503, exit: 9, retry: true },
  SERVICE_UNREACHABLE: { status: 503, exit: 9, retry: true },
  PORT_TAKEN: { status: 500, exit: 10, retry: false },
  BAD_BACKUP: { status: 422, exit: 3, retry: false },
  BAD_SETTING: { status: 500, exit: 10, retry: false },
} as const;

export type ErrorCode = keyof typeof ERRORS;

/**
 * An error with a code of the register, a sentence for its reader and what to do about it.
 * `where` names the place: a file, a sheet and cell, a line and column, a field of a definition.
 */
export class CorbixError extends Error {
  override readonly name = "CorbixError";
  readonly where: string | undefined;
  readonly advice: string | undefined;

  constructor(
    readonly code: ErrorCode,
    message: string,
    options: { readonly where?: string; readonly advice?: string; readonly cause?: unknown } = {},
  ) {
    super(message, options.cause === undefined ? undefined : { cause: options.cause });
    this.where = options.where;
    this.advice = options.advice;
  }

  get status(): number {
    return ERRORS[this.code].status;
  }

  get exitCode(): number {
    return ERRORS[this.code].exit;
  }

  /** Place, sentence and advice as one line for a terminal or a log. */
  toLine(): string {
    const place = this.where ? `${this.where}: ` : "";
    return `${place}${this.message}${this.advice ? ` ${this.advice}` : ""}`;
  }
}
