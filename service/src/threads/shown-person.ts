import type { Address, Matched, Role } from "@corbix/core/recipients";

/** Who receives for a group and by which rule, with nothing left open. */
export interface ShownPerson {
  readonly name: string;
  readonly role: Role;
  readonly to: readonly Address[];
  readonly copies: readonly Address[];
  readonly blindCopies: readonly Address[];
  readonly language: string | null;
  readonly why: string;
}

export function shownPerson({ name, role, to, copies, blindCopies, language, why }: Matched): ShownPerson {
  return { name, role: role ?? "to", to, copies, blindCopies, language: language ?? null, why };
}
