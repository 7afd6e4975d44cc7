/** Sums that must come out: by hand of cents no difference is let through, and no rounding of quotients is taken for one. */
import { addsUp, Exact } from "@corbix/core/common";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

const cents = fc.integer({ min: -1_000_000_000, max: 1_000_000_000 });
const amount = (some: number) => new Exact(some).dividedBy(100);

describe("parts and their whole", () => {
  it("add up to the cent, and not with a cent more or less", () => {
    fc.assert(
      fc.property(fc.array(cents, { maxLength: 40 }), (list) => {
        const whole = amount(list.reduce((sum, one) => sum + one, 0));
        const parts = list.map((one) => amount(one).toString());
        expect(addsUp(parts, whole.toString())).toBe(true);
        for (const off of ["0.01", "-0.01", "0.0000000000000001"]) expect(addsUp(parts, whole.plus(off))).toBe(false);
      }),
    );
  });

  it("add up where each was divided for itself", () => {
    fc.assert(
      fc.property(
        fc.array(cents, { minLength: 1, maxLength: 40 }),
        fc.constantFrom("3", "7", "1.07", "9.99", "0.013"),
        (list, by) => {
          const whole = amount(list.reduce((sum, one) => sum + one, 0)).dividedBy(by);
          const parts = list.map((one) => amount(one).dividedBy(by));
          expect(addsUp(parts, whole)).toBe(true);
          expect(addsUp(parts, whole.plus("0.0001"))).toBe(false);
          expect(addsUp([...parts, "0.01"], whole)).toBe(false);
        },
      ),
    );
  });

  it("of nothing are nothing", () => {
    expect([addsUp([], 0), addsUp([], "0.01"), addsUp(["0"], "-0")]).toEqual([true, false, true]);
  });
});
