export { BoundMessage, type ComposedMessage, escapeHtml, MessageTemplate, oneLine, plainText } from "./compose.js";
export { CONTENT_TYPES, type DeliveryKey, type Envelope, envelopeOf, messageId } from "./envelope.js";
