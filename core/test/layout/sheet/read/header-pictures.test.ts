import { PNG } from "pngjs";
import { describe, expect, it } from "vitest";
import { readHeaderPictures } from "../../../../src/layout/sheet/read/header-pictures.js";
import { workbookWith } from "../../../support/package-parts.js";

const shape = (id: string, style: string, picture = "rId1") =>
  `<v:shape id="${id}" o:spid="_x0000_s1025" type="#_x0000_t75" style='${style}'><v:imagedata o:relid="${picture}" o:title="logo"/></v:shape>`;

async function picturesOf(shapes: string) {
  const { package: opened, sheets } = await workbookWith({
    onSheet: '<legacyDrawingHF rel:id="rIdHead"/>',
    parts: {
      "xl/drawings/head.vml": `<xml xmlns:v="urn:schemas-microsoft-com:vml">${shapes}</xml>`,
      "xl/media/a.png": new Uint8Array(PNG.sync.write(new PNG({ width: 4, height: 2, fill: true }))),
      "xl/media/b.emf": "EMF",
    },
    relations: {
      "xl/worksheets/sheet1.xml": [["rIdHead", "vmlDrawing", "../drawings/head.vml"]],
      "xl/drawings/head.vml": [
        ["rId1", "image", "../media/a.png"],
        ["rId2", "image", "../media/b.emf"],
      ],
    },
  });
  return readHeaderPictures(opened, sheets[0]);
}

describe("pictures in headers and footers", () => {
  it("are found by their places, with their sizes in points", async () => {
    const found = await picturesOf(
      shape("LH", "position:absolute;margin-left:0;width:96px;height:.5in;z-index:1") +
        shape("RFFIRST", "height:2.54cm;width: 36pt"),
    );
    expect([...found.keys()]).toEqual(["LH", "RFFIRST"]);
    expect(found.get("LH")).toMatchObject({ width: 72, height: 36, image: { format: "png", width: 4 } });
    expect(found.get("RFFIRST")?.width).toBe(36);
    expect(found.get("RFFIRST")?.height).toBeCloseTo(72, 6);
  });

  it("of another kind, without a size, or not there are none", async () => {
    const found = await picturesOf(
      shape("LH", "width:1in;height:1in", "rId2") + shape("CH", "width:1in;height:1in", "rId9") + shape("RH", ""),
    );
    expect(found.size).toBe(0);
  });

  it("are none on a sheet without such a drawing", async () => {
    const { package: opened, sheets } = await workbookWith({});
    expect(readHeaderPictures(opened, sheets[0]).size).toBe(0);
  });
});
