/** What the service says went wrong, where, and what to do (RFC 9457). */
export class Problem extends Error {
  override readonly name = "Problem";

  readonly where: string | undefined;
  readonly advice: string | undefined;

  constructor(
    message: string,
    /** HTTP status; 0 where the service could not be reached. */
    readonly status: number,
    /** Stable code of what went wrong, such as `NOT_FOUND`. */
    readonly code: string,
    about: { readonly where?: string | undefined; readonly advice?: string | undefined; readonly cause?: unknown } = {},
  ) {
    super(message, { cause: about.cause });
    this.where = about.where;
    this.advice = about.advice;
  }
}

export async function problemOf(response: Response): Promise<Problem> {
  const told = (await response.json().catch(() => ({}))) as Partial<
    Record<"title" | "code" | "where" | "advice", string>
  >;
  return new Problem(
    told.title ?? `The service answered ${response.status}.`,
    response.status,
    told.code ?? "SERVICE_UNREACHABLE",
    { where: told.where, advice: told.advice },
  );
}
