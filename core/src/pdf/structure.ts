/** The logical structure of a file: ISO 32000-1, 14.7 and 14.8, as ISO 14289-1 asks for it. */
import type { Box, StructureNode } from "../page/index.js";
import { type PdfFile, pdfNumber, pdfText, type Ref } from "./objects.js";

/** What a structure element holds: marked content of a page, a link's annotation, or another element. */
type Kid =
  | { readonly kind: "content"; readonly page: Ref; readonly id: number }
  | { readonly kind: "object"; readonly ref: Ref; readonly page: Ref }
  | { readonly kind: "node"; readonly node: StructureNode };

/** Elements that stay though they hold nothing: a table without a cell is out of step. */
const STAYING = new Set(["Table", "TR", "TH", "TD"]);

/** Collects which content belongs to which element while pages are written. */
export class Structure {
  private readonly kids = new Map<StructureNode, Kid[]>();
  private readonly alternatives = new Map<StructureNode, { readonly text: string; readonly box: Box }>();
  /** By the number of a page in the tree of parents: the elements its marks belong to. */
  private readonly byPage: StructureNode[][] = [];
  private readonly annotations: StructureNode[] = [];
  private readonly refs = new Map<StructureNode, Ref>();
  private notes = 0;

  constructor(
    private readonly pdf: PdfFile,
    private readonly root: StructureNode,
  ) {}

  /** The number of a new mark for content of an element on a page. */
  mark(node: StructureNode, page: Ref, pageIndex: number): number {
    this.byPage[pageIndex] ??= [];
    const marks = this.byPage[pageIndex];
    marks.push(node);
    this.kidsOf(node).push({ kind: "content", page, id: marks.length - 1 });
    return marks.length - 1;
  }

  /** An element inside another, at the place where it is come upon. */
  inside(parent: StructureNode, role: string): StructureNode {
    const node: StructureNode = { role, children: [] };
    this.kidsOf(parent).push({ kind: "node", node });
    return node;
  }

  describe(node: StructureNode, text: string, box: Box): void {
    this.alternatives.set(node, { text, box });
  }

  /** The number by which an annotation finds its element; page numbers come first. */
  annotation(node: StructureNode, ref: Ref, page: Ref, pages: number): number {
    this.annotations.push(node);
    this.kidsOf(node).push({ kind: "object", ref, page });
    return pages + this.annotations.length - 1;
  }

  private kidsOf(node: StructureNode): Kid[] {
    const known = this.kids.get(node);
    if (known) return known;
    const made: Kid[] = [];
    this.kids.set(node, made);
    return made;
  }

  /** Writes all elements and gives the root's reference. */
  write(pageCount: number): Ref {
    const { pdf } = this;
    const treeRoot = pdf.reserve();
    const top = pdf.reserve();
    this.refs.set(this.root, top);
    const kids = this.all(this.root).map((kid) => this.kid(kid, top));
    pdf.set(top, `<< /Type /StructElem /S /${this.root.role} /P ${treeRoot} /K [${kids.filter(Boolean).join(" ")}] >>`);
    const numbers = Array.from({ length: pageCount }, (_, index) => {
      const marks = (this.byPage[index] ?? []).map((node) => this.refs.get(node) ?? top);
      return `${index} [${marks.join(" ")}]`;
    });
    this.annotations.forEach((node, index) => {
      numbers.push(`${pageCount + index} ${this.refs.get(node) ?? top}`);
    });
    const parents = pdf.add(`<< /Nums [${numbers.join(" ")}] >>`);
    pdf.set(
      treeRoot,
      `<< /Type /StructTreeRoot /K [${top}] /ParentTree ${parents} /ParentTreeNextKey ${numbers.length} >>`,
    );
    return treeRoot;
  }

  /** Elements the layout made, and what was come upon while writing. */
  private all(node: StructureNode): readonly Kid[] {
    const own = this.kids.get(node) ?? [];
    if (node.children.length === 0) return own;
    return [...own, ...node.children.map((child): Kid => ({ kind: "node", node: child }))];
  }

  private readonly holding = new Map<StructureNode, boolean>();

  private holdsSomething(node: StructureNode): boolean {
    let holds = this.holding.get(node);
    if (holds === undefined) {
      holds =
        STAYING.has(node.role) || this.all(node).some((kid) => kid.kind !== "node" || this.holdsSomething(kid.node));
      this.holding.set(node, holds);
    }
    return holds;
  }

  /** Content on the element's own page is named by its number alone. */
  private kid(kid: Kid, parent: Ref, page?: Ref): string {
    if (kid.kind === "content")
      return kid.page === page ? String(kid.id) : `<< /Type /MCR /Pg ${kid.page} /MCID ${kid.id} >>`;
    if (kid.kind === "object") return `<< /Type /OBJR /Obj ${kid.ref} /Pg ${kid.page} >>`;
    const { node } = kid;
    if (!this.holdsSomething(node)) return "";
    const ref = this.pdf.reserve();
    this.refs.set(node, ref);
    const all = this.all(node);
    const first = all.find((inner) => inner.kind === "content");
    const own = first?.kind === "content" ? first.page : undefined;
    let kids = "";
    for (const inner of all) {
      const written = this.kid(inner, ref, own);
      if (written !== "") kids += kids === "" ? written : ` ${written}`;
    }
    const id = node.role === "Note" ? ` /ID ${pdfText(`note ${++this.notes}`)}` : "";
    this.pdf.set(
      ref,
      `<< /Type /StructElem /S /${node.role} /P ${parent}${id}${own ? ` /Pg ${own}` : ""}${this.attributes(node)} /K [${kids}] >>`,
    );
    return String(ref);
  }

  private attributes(node: StructureNode): string {
    const owners: string[] = [];
    if (node.scope || node.columns || node.rows)
      owners.push(
        `<< /O /Table${node.scope ? ` /Scope /${node.scope}` : ""}${node.columns ? ` /ColSpan ${node.columns}` : ""}${node.rows ? ` /RowSpan ${node.rows}` : ""} >>`,
      );
    const alternative = this.alternatives.get(node);
    if (alternative) {
      const { box } = alternative;
      const corners = [box.x, box.y, box.x + box.width, box.y + box.height].map(pdfNumber).join(" ");
      owners.push(`<< /O /Layout /BBox [${corners}] /Placement /Block >>`);
    }
    const alt = alternative ? ` /Alt ${pdfText(alternative.text)}` : "";
    return `${alt}${owners.length > 0 ? ` /A [${owners.join(" ")}]` : ""}`;
  }
}
