/** A way of keeping formatted words, as the editor uses it. Both have chips, tables of rows and pictures by the same names. */
import type { Node, Schema } from "prosemirror-model";
import type { Command, EditorState, Plugin } from "prosemirror-state";

export type Tool = "strong" | "em" | "heading" | "bullets" | "numbers";

export const TOOLS: readonly { readonly tool: Tool; readonly name: string }[] = [
  { tool: "strong", name: "Bold" },
  { tool: "em", name: "Italic" },
  { tool: "heading", name: "Heading" },
  { tool: "bullets", name: "List" },
  { tool: "numbers", name: "Numbered" },
];

export interface Writing {
  readonly schema: Schema;
  readonly read: (text: string) => Node;
  readonly write: (document: Node) => string;
  readonly plugins: () => Plugin[];
  /** Whether what a button does is so already where the cursor is. */
  readonly isOn: (state: EditorState, tool: Tool) => boolean;
  /** A button pressed once does it, pressed again takes it back. */
  readonly commandOf: (state: EditorState, tool: Tool) => Command;
  /** Words that are selected lead to an address; without any, the address itself is put in. */
  readonly setLink: (href: string) => Command;
}
