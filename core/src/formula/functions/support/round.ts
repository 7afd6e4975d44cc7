/** Numbers below this, to so many places, have no error near `NEAR_TIP` when they are scaled. */
const MOST_PLAIN = 1e6;
const MOST_PLACES = 4;
const NEAR_TIP = 1e-4;

/** Rounds in decimals: 1.005 to two places is 1.01, as people reckon. */
export function roundDecimal(value: number, places: number, mode: "near" | "up" | "down"): number {
  const size = Math.abs(value);
  if (size < MOST_PLAIN && places >= 0 && places <= MOST_PLACES) {
    const scaled = size * 10 ** places;
    const over = scaled - Math.floor(scaled);
    // Away from where it tips over, a whole number divided once is the decimal itself.
    const tips = mode === "near" ? Math.abs(over - 0.5) : Math.min(over, 1 - over);
    if (tips > NEAR_TIP) {
      const whole = mode === "near" ? Math.round(scaled) : mode === "up" ? Math.ceil(scaled) : Math.floor(scaled);
      return (Math.sign(value) * whole) / 10 ** places;
    }
  }
  const [mantissa, exponent = "0"] = Math.abs(value).toPrecision(15).split("e");
  const scaled = Number(`${mantissa}e${Number(exponent) + places}`);
  const rounded = mode === "near" ? Math.round(scaled) : mode === "up" ? Math.ceil(scaled) : Math.floor(scaled);
  const [digits, power = "0"] = String(rounded).split("e");
  return Math.sign(value) * Number(`${digits}e${Number(power) - places}`);
}
