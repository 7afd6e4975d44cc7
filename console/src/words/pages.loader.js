import { registerLoaders } from "wuchale/load-utils";
import { loadCatalog, loadIDs } from "./.wuchale/pages.proxy.js";

export const getRuntime = registerLoaders("pages", loadCatalog, loadIDs);
export const getRuntimeRx = getRuntime;
