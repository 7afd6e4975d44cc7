/**
 * State machines as tables: each move names the states it starts from, where it leads, and what must hold. The table is all there
 * is: statements of the service take their states from it, the database refuses what is not in it, the documents print it.
 */
export interface Move<State extends string, Event extends string, Guard extends string> {
  readonly event: Event;
  readonly from: readonly State[];
  readonly to: State;
  /** All of them have to hold. */
  readonly guards: readonly Guard[];
  /** Whose word it is: a person's, the service's own, or the mail server's. */
  readonly by: "person" | "service" | "server";
  /** What it means, for people. */
  readonly means: string;
}

export interface Machine<State extends string, Event extends string, Guard extends string> {
  readonly states: readonly State[];
  readonly initial: State;
  readonly guards: Readonly<Record<Guard, string>>;
  readonly moves: readonly Move<State, Event, Guard>[];
}

/** What became of an event: the next state, or why there is none. */
export type Moved<State extends string, Guard extends string> =
  | { readonly state: State }
  | { readonly refused: "state" }
  | { readonly refused: "guard"; readonly guard: Guard };

/**
 * Where an event leads from a state.
 * @example nextState(MESSAGE_MACHINE, "held", "release", { released: false, … }) //=> { refused: "guard", guard: "released" }
 */
export function nextState<State extends string, Event extends string, Guard extends string>(
  machine: Machine<State, Event, Guard>,
  state: State,
  event: Event,
  holds: Readonly<Record<Guard, boolean>>,
): Moved<State, Guard> {
  const moves = machine.moves.filter((move) => move.event === event && move.from.includes(state));
  if (moves.length === 0) return { refused: "state" };
  const open = moves.find((move) => move.guards.every((guard) => holds[guard]));
  if (open) return { state: open.to };
  const [guard] = moves.flatMap((move) => move.guards).filter((one) => !holds[one]);
  return { refused: "guard", guard };
}

/** States an event may start from, in the order of the table; for statements that change many rows at once. */
export function fromStates<State extends string, Event extends string, Guard extends string>(
  machine: Machine<State, Event, Guard>,
  event: Event,
  to?: State,
): State[] {
  return [
    ...new Set(
      machine.moves
        .filter((move) => move.event === event && (to === undefined || move.to === to))
        .flatMap((move) => move.from),
    ),
  ];
}

/** Every pair of states that some move joins, each once. */
export function pairsOf<State extends string, Event extends string, Guard extends string>(
  machine: Machine<State, Event, Guard>,
): [State, State][] {
  const pairs = machine.moves.flatMap((move) => move.from.map((from): [State, State] => [from, move.to]));
  return [...new Map(pairs.map((pair) => [pair.join(" "), pair])).values()];
}
