export {
  type Address,
  type Matching,
  matchRecipients,
  type Recipient,
  type RecipientList,
  readRecipients,
  showAddress,
} from "./recipients.js";
