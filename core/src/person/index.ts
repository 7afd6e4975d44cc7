export { type PersonWords, personWords } from "./person-words.js";
