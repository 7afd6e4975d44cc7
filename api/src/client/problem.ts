/** What the service says went wrong, where, and what to do (RFC 9457). */
export class Problem extends Error {
  override readonly name = "Problem";

  constructor(
    message: string,
    /** HTTP status; 0 where the service could not be reached. */
    readonly status: number,
    /** Stable code of what went wrong, such as `NOT_FOUND`. */
    readonly code: string,
    readonly where?: string,
    readonly advice?: string,
    options?: ErrorOptions,
  ) {
    super(message, options);
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
    told.where,
    told.advice,
  );
}
