/** One record with forty lines, the same for ours and the yardsticks. */
export function record() {
  const lines = Array.from({ length: 40 }, (_, index) => ({
    visit_date: `2026-10-${String(1 + (index % 28)).padStart(2, "0")}`,
    unit: `L${index}`,
    kind: "passenger lift",
    inspector: "A. Brandt",
    result: "pass",
    hours: 1.5,
    rate: 92,
    parts: index,
    next_due: "2027-04-01",
    remarks: "car lighting cleaned",
  }));
  return {
    site: "Harbour House",
    street: "Quayside 12",
    town: "AM8 2HH Aldmoor",
    recipient: { name: "Silas Montague" },
    period: { key: "2026-10", label: "October 2026" },
    group: { number: 11 },
    run: { date: "2026-11-02", sender: "office@lifts.example" },
    lines,
  };
}
