/** A report of non-delivery as mail systems send it: RFC 3464 in a multipart/report of RFC 6522. */
import { sha256 } from "@corbix/core/common";

export function nonDeliveryReport(original: Buffer, sender: string, failed: readonly string[], words: string): string {
  const boundary = `report-${sha256(original).slice(0, 24)}`;
  const end = original.indexOf("\r\n\r\n");
  const head = original.subarray(0, end < 0 ? original.length : end).toString("latin1");
  const status = /\b([245]\.\d{1,3}\.\d{1,3})\b/.exec(words)?.[1] ?? "5.0.0";
  const recipients = failed.map((address) =>
    [
      `Final-Recipient: rfc822; ${address}`,
      "Action: failed",
      `Status: ${status}`,
      `Diagnostic-Code: smtp; ${words}`,
    ].join("\r\n"),
  );
  return [
    "From: Mail system <mailer-daemon@letterbox.example>",
    `To: ${sender}`,
    "Subject: Message not delivered",
    `Message-ID: <${sha256(Buffer.concat([original, Buffer.from(failed.join())])).slice(0, 32)}@letterbox.example>`,
    "Auto-Submitted: auto-replied",
    "MIME-Version: 1.0",
    `Content-Type: multipart/report; report-type=delivery-status; boundary="${boundary}"`,
    "",
    `--${boundary}`,
    "Content-Type: text/plain; charset=utf-8",
    "",
    `This message could not be delivered to ${failed.join(", ")}: ${words}`,
    `--${boundary}`,
    "Content-Type: message/delivery-status",
    "",
    "Reporting-MTA: dns; letterbox.example",
    "",
    recipients.join("\r\n\r\n"),
    "",
    `--${boundary}`,
    "Content-Type: text/rfc822-headers",
    "",
    head,
    "",
    `--${boundary}--`,
    "",
  ].join("\r\n");
}
