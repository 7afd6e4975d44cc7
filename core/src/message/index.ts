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
export { type Pace, secondsToSend } from "./estimate.js";
export { languageFor, type MessagePart, messageParts } from "./parts.js";
