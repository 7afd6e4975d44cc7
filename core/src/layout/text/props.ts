/** What runs and paragraphs look like, whatever file they come from. Lengths in points. */

export interface RunProps {
  readonly font?: string;
  readonly size?: number;
  readonly bold?: boolean;
  readonly italic?: boolean;
  /** Its style, such as `double`; `true` for a single line. */
  readonly underline?: boolean | string;
  readonly underlineColor?: string;
  readonly strike?: boolean;
  readonly doubleStrike?: boolean;
  readonly color?: string;
  readonly highlight?: string;
  readonly shading?: string;
  readonly raised?: "superscript" | "subscript" | undefined;
  readonly caps?: boolean;
  readonly smallCaps?: boolean;
  readonly hidden?: boolean;
  /** Added behind each character. */
  readonly spacing?: number;
  readonly position?: number;
  /** Width of letters beside their own; 1 without it. */
  readonly scale?: number;
  readonly border?: ParagraphLine | undefined;
  readonly rightToLeft?: boolean;
  /** BCP 47 tag. */
  readonly language?: string;
  readonly style?: string;
}

export interface TabStop {
  readonly at: number;
  readonly kind: "left" | "right" | "center" | "decimal" | "clear" | "bar";
  readonly leader: string;
}

export interface ParagraphLine {
  readonly style: string;
  readonly width: number;
  readonly space: number;
  readonly color: string;
}

export interface ParagraphProps {
  readonly style?: string;
  readonly align?: string;
  readonly before?: number;
  readonly after?: number;
  /** Line distance: a factor of single spacing, or points. */
  readonly line?: {
    /** `share` is a factor too, but takes from and adds to what is above the letters. */
    readonly rule: "auto" | "exact" | "atLeast" | "share";
    readonly value: number;
  };
  readonly contextual?: boolean;
  readonly left?: number;
  readonly right?: number;
  /** Negative for a hanging indent. */
  readonly first?: number;
  readonly tabs?: readonly TabStop[];
  readonly keepNext?: boolean;
  readonly keepLines?: boolean;
  readonly pageBreakBefore?: boolean;
  readonly widowControl?: boolean;
  readonly borders?: Readonly<Record<string, ParagraphLine | undefined>>;
  readonly shading?: string;
  readonly numbering?: { readonly id: number; readonly level: number };
  readonly outlineLevel?: number;
  readonly rightToLeft?: boolean;
  readonly suppressHyphens?: boolean;
}

export function isDrawn(line: ParagraphLine | undefined): line is ParagraphLine {
  return line !== undefined && line.style !== "none" && line.style !== "nil" && line.width > 0;
}
