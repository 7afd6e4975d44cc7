export { type Address, type Matching, matchRecipients, readRecipients, type Recipient, type RecipientList, showAddress } from "./recipients.js";
