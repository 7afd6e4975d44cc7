export { type Group, type Split, splitTable } from "./split.js";
