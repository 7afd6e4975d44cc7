/** Where shapes stand: their boxes, turned and flipped, in groups too (ECMA-376 part 1, 20.1.7). */
import type { XmlElement } from "../../ooxml/index.js";
import type { Box } from "../../page/index.js";
import { isTrue } from "../../spreadsheet/index.js";
import { EMU_PER_PT } from "./geometry.js";

/** A box with what it is turned by, clockwise in degrees, and whether it is seen in a mirror. */
export interface Placement {
  readonly box: Box;
  readonly degrees: number;
  readonly flipX: boolean;
  readonly flipY: boolean;
}

export function placementOf(frame: XmlElement): Placement {
  const at = (name: string, attribute: string): number => Number(frame.child(name)?.attr(attribute) ?? 0) / EMU_PER_PT;
  return {
    box: { x: at("off", "x"), y: at("off", "y"), width: at("ext", "cx"), height: at("ext", "cy") },
    degrees: Number(frame.attr("rot") ?? 0) / 60_000,
    flipX: isTrue(frame.attr("flipH")),
    flipY: isTrue(frame.attr("flipV")),
  };
}

/** What the places of a group's members become: scaled into its box, and mirrored where the group is. */
export function inGroup(frame: XmlElement | undefined, group: Placement): (member: Placement) => Placement {
  const at = (name: string, attribute: string): number => Number(frame?.child(name)?.attr(attribute) ?? 0) / EMU_PER_PT;
  const [x, y] = [at("chOff", "x"), at("chOff", "y")];
  const [width, height] = [at("chExt", "cx"), at("chExt", "cy")];
  const { box, flipX, flipY } = group;
  const [sx, sy] = [width === 0 ? 1 : box.width / width, height === 0 ? 1 : box.height / height];
  return (member) => {
    // What lies on its side is made wider by what makes the group higher.
    const lies = Math.round(member.degrees / 90) % 2 !== 0;
    const [ox, oy] = lies ? [sy, sx] : [sx, sy];
    const [w, h] = [member.box.width * ox, member.box.height * oy];
    const mx = box.x + (member.box.x + member.box.width / 2 - x) * sx;
    const my = box.y + (member.box.y + member.box.height / 2 - y) * sy;
    const [cx, cy] = [flipX ? 2 * box.x + box.width - mx : mx, flipY ? 2 * box.y + box.height - my : my];
    return {
      box: { x: cx - w / 2, y: cy - h / 2, width: w, height: h },
      degrees: flipX !== flipY ? -member.degrees : member.degrees,
      flipX: member.flipX !== flipX,
      flipY: member.flipY !== flipY,
    };
  };
}
