/** How files hang on a message: their names and types as mail programs need them. */
import { describe, expect, it } from "vitest";
import { pictureId, picturesIn } from "../../src/message/body.js";
import { enclosedAttachment, madeAttachment, pictureAttachment } from "../../src/message/mail-attachments.js";

describe("an attachment", () => {
  it("is called without its folder, and has the type of its kind", () => {
    expect(madeAttachment("2026-10/Dock/rows.xlsx", "xlsx", "a1")).toEqual({
      filename: "rows.xlsx",
      contentType: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
      sha256: "a1",
    });
    expect(madeAttachment("letter.docx", "docx", "a").contentType).toContain("wordprocessingml");
    expect(madeAttachment("letter.pdf", "pdf", "a")).toMatchObject({
      filename: "letter.pdf",
      contentType: "application/pdf",
    });
  });

  it("that was not made has the type of its ending, and is known as such", () => {
    expect(enclosedAttachment("terms.PDF", "b2")).toEqual({
      filename: "terms.PDF",
      contentType: "application/pdf",
      sha256: "b2",
      isEnclosed: true,
    });
    expect(enclosedAttachment("plan.dwgx", "b").contentType).toBe("application/octet-stream");
    expect(enclosedAttachment("list.csv", "b").contentType).toBe("text/csv");
  });

  it("of a picture in the text is named so that the text finds it", () => {
    const logo = pictureAttachment("Logo Ü.PNG", "c3");
    expect(logo).toMatchObject({ filename: "Logo Ü.PNG", contentType: "image/png" });
    expect(pictureAttachment("a.jpg", "c").contentType).toBe("image/jpeg");
    expect(logo.cid).toBe(pictureId("Logo Ü.PNG"));
    expect(picturesIn(`<img src="cid:${logo.cid}"><img src="cid:${logo.cid}">`)).toEqual(["Logo Ü.PNG"]);
  });
});
