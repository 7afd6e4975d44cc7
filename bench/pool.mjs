/** The yardstick of sending: a pool of connections that keeps no records. Prints messages a second. */
import { randomBytes } from "node:crypto";
import { createTransport } from "nodemailer";

const [port, count, connections, size] = process.argv.slice(2).map(Number);
const pool = createTransport({ host: "127.0.0.1", port, pool: true, maxConnections: connections, ignoreTLS: true });
const content = randomBytes(size);
const send = (number) =>
  pool.sendMail({
    from: "Office <office@lifts.example>",
    to: `person${number}@units.example`,
    subject: `Statement of Group ${number}`,
    html: "<p>Dear reader,</p><p>your statement is attached.</p>",
    text: "Dear reader, your statement is attached.",
    attachments: [{ filename: "statement.pdf", content, contentType: "application/pdf" }],
  });
for (let number = 0; number < 50; number++) await send(number);
const started = performance.now();
await Promise.all(Array.from({ length: count }, (_, number) => send(number)));
process.stdout.write(String(count / ((performance.now() - started) / 1000)));
pool.close();
