import { z } from "zod";

/** A text of a definition, filled and of a length that somebody could have written. */
export const text = z.string().min(1).max(2_000);
