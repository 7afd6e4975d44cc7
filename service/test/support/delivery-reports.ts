/** A report of non-delivery (RFC 3464), as a mail server sends it. */
export function messageReport(messageId: string, address: string): Buffer {
  return Buffer.from(
    [
      "From: Mail Delivery <postmaster@mill.example>",
      "To: office@lifts.example",
      "Subject: Undeliverable",
      "MIME-Version: 1.0",
      'Content-Type: multipart/report; report-type=delivery-status; boundary="part"',
      "",
      "--part",
      "Content-Type: text/plain",
      "",
      "It could not be delivered.",
      "--part",
      "Content-Type: message/delivery-status",
      "",
      "Reporting-MTA: dns; mx.mill.example",
      "",
      `Final-Recipient: rfc822; ${address}`,
      "Action: failed",
      "Status: 5.1.1",
      "Diagnostic-Code: smtp; 550 5.1.1 no such mailbox",
      "",
      "--part",
      "Content-Type: text/rfc822-headers",
      "",
      `Message-ID: ${messageId}`,
      "",
      "--part--",
      "",
    ].join("\r\n"),
  );
}
