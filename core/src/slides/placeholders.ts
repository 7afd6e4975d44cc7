/** Placeholders of a slide, and those of its layout and master that they stand for (ECMA-376 part 1, 19.3.1.36). */
import type { XmlElement } from "../ooxml/index.js";
import { type Deck, isTitle, type Placeholder, placeholderOf } from "./deck.js";

/** The parts that a slide, or a page of notes, takes its looks from: itself, its layout, its master. */
export function rootsOf(deck: Deck, part: string): string[] {
  const chain = [part];
  for (const type of ["slideLayout", "slideMaster", "notesMaster", "handoutMaster"]) {
    const next = deck.relatedPart(chain[chain.length - 1], type);
    if (next) chain.push(next);
  }
  return chain;
}

type Holders = readonly (readonly [Placeholder, XmlElement])[];

/** Placeholders of a part by its root: decks of one template share layouts and masters. */
const known = new WeakMap<XmlElement, Holders>();

export class Placeholders {
  private holdersIn(root: XmlElement): Holders {
    let found = known.get(root);
    if (!found) {
      const tree = root.path("cSld", "spTree");
      found = ["sp", "pic", "graphicFrame"]
        .flatMap((kind) => tree?.descendants(kind) ?? [])
        .flatMap((shape) => {
          const holder = placeholderOf(shape);
          return holder ? [[holder, shape] as const] : [];
        });
      known.set(root, found);
    }
    return found;
  }

  /** Shapes of layout and master that a placeholder stands for, the master's first. `from` is the root it stands on. */
  originsOf(shape: XmlElement, roots: readonly XmlElement[], from = 0): XmlElement[] {
    const found: XmlElement[] = [];
    let holder = placeholderOf(shape);
    if (!holder) return found;
    for (let at = from + 1; at < roots.length; at++) {
      const isMaster = roots[at].local !== "sldLayout";
      const match = matching(holder, this.holdersIn(roots[at]), isMaster);
      if (!match) continue;
      found.unshift(match[1]);
      // A layout says of what kind the placeholder with a number is.
      if (holder.type === "obj") holder = { type: match[0].type, index: holder.index };
    }
    return found;
  }

  /** The frame of a shape: its own, or that of a placeholder it stands for. */
  frameOf(shape: XmlElement, roots: readonly XmlElement[]): XmlElement | undefined {
    const own = frameIn(shape);
    if (own?.child("ext")) return own;
    const origins = this.originsOf(shape, roots);
    for (let at = origins.length - 1; at >= 0; at--) {
      const frame = frameIn(origins[at]);
      if (frame?.child("ext")) return frame;
    }
    return undefined;
  }
}

export function frameIn(shape: XmlElement): XmlElement | undefined {
  return shape.child("spPr")?.child("xfrm") ?? shape.child("grpSpPr")?.child("xfrm") ?? shape.child("xfrm");
}

/** Kinds of placeholders as masters know them. */
function masterType(type: string): string {
  if (isTitle({ type, index: "" })) return "title";
  return ["dt", "ftr", "sldNum", "hdr", "sldImg"].includes(type) ? type : "body";
}

function matching(
  holder: Placeholder,
  holders: Holders,
  isMaster: boolean,
): readonly [Placeholder, XmlElement] | undefined {
  if (isMaster) return holders.find(([one]) => masterType(one.type) === masterType(holder.type));
  const sameIndex = holders.find(
    ([one]) => one.index === holder.index && (holder.index !== "0" || masterType(one.type) === masterType(holder.type)),
  );
  return sameIndex ?? holders.find(([one]) => one.type === holder.type);
}
