/** The made-up lift and escalator inspection office: its sites, people, and ten months of visits. */

export const OFFICE = {
  name: "Aldmoor Lift Inspection Office",
  street: "14 Windlass Row",
  town: "AM1 2LF Aldmoor",
  phone: "+44 20 7946 0180",
  mail: "office@lifts.example",
};

/** Site, street, town, units, people who receive (name, address), copies. A site without people has nobody to receive for it. */
export const SITES = [
  ["Alder Court", "3 Alder Street", "AM2 1AA Aldmoor", 4, [["Ruth Penhallow", "ruth.penhallow@aldercourt.example"]]],
  [
    "Bellfield Hospital",
    "Bellfield Road 80",
    "AM7 4BH Aldmoor",
    14,
    [
      ["Tomas Lindqvist", "tomas.lindqvist@bellfield.example"],
      ["Facilities", "facilities@bellfield.example"],
    ],
  ],
  ["Brücken Arcade", "Bridge Square 1", "AM1 1BR Aldmoor", 9, [["Jürgen Weiß", "j.weiss@bruecken-arcade.example"]]],
  [
    "Canal Wharf",
    "27 Towpath",
    "AM3 5CW Aldmoor",
    5,
    [["Imogen Achterberg", "imogen@canalwharf.example"]],
    "accounts@canalwharf.example",
  ],
  ["Cinder Mill Lofts", "9 Cinder Lane", "AM4 2CM Aldmoor", 3, [["Petra Okonkwo", "petra.okonkwo@cindermill.example"]]],
  ["Drapers Hall", "2 Drapers Yard", "AM1 3DH Aldmoor", 2, [["Hugo Fairweather", "steward@drapershall.example"]]],
  [
    "Eastgate Station",
    "Station Parade",
    "AM5 1EG Aldmoor",
    12,
    [
      ["Nadia Rahimi", "nadia.rahimi@eastgate.example"],
      ["Control room", "control@eastgate.example"],
    ],
    "safety@rail.example",
  ],
  ["Fennel House", "61 Market Hill", "AM2 7FH Aldmoor", 2, [["Colm Devereux", "colm@fennelhouse.example"]]],
  ["Glasshouse Gardens", "Orchid Way 5", "AM6 3GG Aldmoor", 3, [["Wen Castellane", "wen@glasshouse.example"]]],
  [
    "Granary Tower",
    "100 Granary Street",
    "AM3 1GT Aldmoor",
    10,
    [["Beatrix Holloway", "b.holloway@granarytower.example"]],
  ],
  ["Harbour House", "Quayside 12", "AM8 2HH Aldmoor", 6, [["Silas Montague", "silas.montague@harbourhouse.example"]]],
  [
    "Ironbridge Offices",
    "44 Foundry Road",
    "AM4 4IB Aldmoor",
    5,
    [["Agnes Thorvald", "agnes.thorvald@ironbridge.example"]],
  ],
  [
    "Juniper Care Home",
    "8 Juniper Close",
    "AM6 8JC Aldmoor",
    2,
    [["Marta Quillfeather", "matron@junipercare.example"]],
  ],
  ["Kingfisher Hotel", "Riverside 33", "AM8 1KF Aldmoor", 7, [["Dario Bellamy", "dario.bellamy@kingfisher.example"]]],
  ["Library of Aldmoor", "College Green", "AM1 9LA Aldmoor", 3, [["Oona Fitzalan", "oona.fitzalan@library.example"]]],
  ["Limekiln Terrace", "15 Limekiln Hill", "AM5 6LK Aldmoor", 2, []],
  ["Maltings Centre", "Barley Street 2", "AM3 3MC Aldmoor", 8, [["Rosalind Egbert", "rosalind@maltings.example"]]],
  ["Northlight Studios", "19 Skylight Alley", "AM4 7NS Aldmoor", 2, [["Kit Marchetti", "kit@northlight.example"]]],
  ["Observatory Park", "Star Hill 1", "AM9 1OP Aldmoor", 4, [["Lev Arkwright", "lev.arkwright@observatory.example"]]],
  [
    "Pavilion Shopping",
    "The Pavilion",
    "AM2 2PV Aldmoor",
    16,
    [["Grace Oyelaran", "grace.oyelaran@pavilion.example"]],
    "leases@pavilion.example",
  ],
  ["Quarry Lane School", "Quarry Lane", "AM6 5QL Aldmoor", 2, [["Head's office", "office@quarrylane.example"]]],
  ["Ropewalk Apartments", "70 Ropewalk", "AM8 8RW Aldmoor", 4, [["Yusuf Blackwood", "yusuf@ropewalk.example"]]],
  ["Sjöstad Quay", "Quayside 40", "AM8 3SQ Aldmoor", 6, [["Åsa Nyström", "asa.nystrom@sjostad.example"]]],
  [
    "Tannery Row, Building of the Municipal Housing Association of Aldmoor and Eastmoor",
    "1–9 Tannery Row",
    "AM4 9TR Aldmoor",
    5,
    [["Philippa Marchbanks-Ferreira", "p.marchbanks-ferreira@housing.example"]],
  ],
  ["Union Street Car Park", "Union Street", "AM1 7US Aldmoor", 3, [["Parking services", "parking@council.example"]]],
  ["Windmill Depot", "Mill Road 200", "AM9 9WD Aldmoor", 4, [["Edda Carrow", "edda.carrow@windmilldepot.example"]]],
];

export const INSPECTORS = [
  ["A. Brandt", 92],
  ["M. Oduya", 92],
  ["S. Halloran", 98.5],
  ["L. Ferrante", 98.5],
  ["K. Vance", 110],
];

const KINDS = ["passenger lift", "passenger lift", "passenger lift", "goods lift", "escalator", "platform lift"];
const REMARKS = {
  pass: ["", "", "", "", "car lighting cleaned", "door speed adjusted"],
  "pass with remarks": [
    "emergency lighting dim",
    "pit to be cleaned",
    "handrail worn, watch",
    "indicator on floor 2 dark",
    "landing sill loose, tightened",
  ],
  fail: [
    "brake wear over limit",
    "door lock contact fails",
    "overspeed governor rope frayed",
    "step chain elongated",
    "emergency call without answer",
  ],
  cancelled: ["no access", "closed by client"],
};

/** Numbers that look random and are the same each time. */
export function seeded(seed) {
  let state = seed;
  return () => {
    state = (state * 1664525 + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

const day = (year, month, date) => new Date(Date.UTC(year, month - 1, date));
const addDays = (date, days) => new Date(date.getTime() + days * 86_400_000);

/** About 2,400 visits from January to October 2026; Windmill Depot was closed at the end of August. */
export function visits() {
  const random = seeded(20261);
  const pick = (list) => list[Math.floor(random() * list.length)];
  const rows = [];
  for (let month = 1; month <= 10; month++) {
    for (const [site, street, town, units] of SITES) {
      if (site === "Windmill Depot" && month > 8) continue;
      const count = site === "Drapers Hall" ? 1 : Math.max(2, Math.round(units * (1.3 + random() * 0.9)));
      for (let index = 0; index < count; index++) {
        const unitNumber = 1 + Math.floor(random() * units);
        const kind = KINDS[(unitNumber + site.length) % KINDS.length];
        const [inspector, rate] = pick(INSPECTORS);
        const chance = random();
        const result =
          site === "Drapers Hall"
            ? "pass"
            : chance < 0.78
              ? "pass"
              : chance < 0.92
                ? "pass with remarks"
                : chance < 0.965
                  ? "fail"
                  : "cancelled";
        const date = day(2026, month, 1 + Math.floor(random() * (month === 2 ? 28 : 30)));
        const hours = result === "cancelled" ? 0 : Math.round((0.5 + random() * 2.5) * 4) / 4;
        const parts = result === "pass" || result === "cancelled" ? 0 : Math.round(random() * 18_000) / 100;
        rows.push({
          date,
          site,
          street,
          town,
          unit: `${kind === "escalator" ? "E" : "L"}${String(unitNumber).padStart(2, "0")}`,
          kind,
          inspector,
          hours,
          rate,
          parts,
          result,
          next: result === "cancelled" ? null : addDays(date, result === "fail" ? 30 : result === "pass" ? 180 : 90),
          remarks: pick(REMARKS[result]),
        });
      }
    }
  }
  rows.sort((a, b) => a.date - b.date || a.site.localeCompare(b.site, "en"));
  rows.forEach((row, index) => {
    row.number = 61_000 + index;
  });
  return rows;
}
