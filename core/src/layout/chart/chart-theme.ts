import type { OoxmlPackage } from "../../ooxml/index.js";
import { type Theme, withOverride } from "../../spreadsheet/index.js";

/** The theme that a chart is drawn in: of the file it stands in, with what the chart's own part says over it (14.2.8). */
export function chartTheme(opened: OoxmlPackage, part: string, theme: Theme): Theme {
  const override = opened.relationships(part).find((one) => one.type === "themeOverride" && !one.external)?.target;
  return override !== undefined && opened.has(override) ? withOverride(theme, opened.getXml(override)) : theme;
}
