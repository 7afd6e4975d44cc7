export {
  checkEnquiry,
  type FieldValue,
  type FilledField,
  fieldColumns,
  fieldLabel,
  type Question,
  readQuestion,
  type Values,
} from "./question.js";
