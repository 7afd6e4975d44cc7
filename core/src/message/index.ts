export { pictureId, picturesIn } from "./body.js";
export {
  BoundMessage,
  type ComposedMessage,
  type MessageSource,
  MessageTemplate,
  oneLine,
  plainText,
} from "./compose.js";
export { type DeliveryReport, parseDeliveryStatus, type ReportedRecipient } from "./delivery-report.js";
export { CONTENT_TYPES, type DeliveryKey, type Envelope, envelopeOf, messageId } from "./envelope.js";
export { escapeHtml } from "./escape-html.js";
export { attachedSize, mailSize, type Pace, secondsToSend } from "./estimate.js";
export { enclosedAttachment, madeAttachment, pictureAttachment } from "./mail-attachments.js";
export {
  encodedSize,
  fillFrame,
  frameMail,
  type MailAttachment,
  type Mailbox,
  type MailFrame,
  type MailParts,
  type MailSlot,
} from "./mime.js";
export { languageFor, type MessagePart, messageParts } from "./parts.js";
