/** Ways to show a value that are offered: number format codes of ECMA-376 with an example each. */
export const FORMATS: readonly (readonly [code: string, example: string])[] = [
  ["", "as it is"],
  ["#,##0", "1,234"],
  ["#,##0.00", "1,234.50"],
  ["0%", "12 %"],
  ["dd/mm/yyyy", "02/11/2026"],
  ["d mmm yyyy", "2 Nov 2026"],
];
