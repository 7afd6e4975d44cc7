import { registerLoaders } from "wuchale/load-utils";
import { loadCatalog, loadIDs } from "./.wuchale/code.proxy.js";

export const getRuntime = registerLoaders("code", loadCatalog, loadIDs);
export const getRuntimeRx = getRuntime;
