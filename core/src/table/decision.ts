/** One thing that was decided while a file was read, with the reason; the reader may correct it. */
export interface Decision {
  /** `sheet`, `header row`, `type of Fee`. */
  readonly what: string;
  readonly chosen: string;
  readonly why: string;
  /** Whether a rule of the dataset said so. */
  readonly corrected: boolean;
}
