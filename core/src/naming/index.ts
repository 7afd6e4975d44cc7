export { safeFolder, safeName, uniqueName } from "./file-name.js";
