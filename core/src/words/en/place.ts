/** Where something is: findings and errors begin with it. */
export const place = {
  run: ({ id }: { id: string }) => `run ${id}`,
  columnIn: ({ where, name }: { where: string; name: string }) => `${where}, column ${name}`,
  sheetIn: ({ where, name }: { where: string; name: string }) => `${where}, sheet ${name}`,
  rowIn: ({ where, number }: { where: string; number: number }) => `${where}, row ${number}`,
  group: ({ name }: { name: string }) => `group ${name}`,
  file: ({ name }: { name: string }) => `file ${name}`,
  dataset: ({ name }: { name: string }) => `dataset ${name}`,
  template: ({ name }: { name: string }) => `template ${name}`,
  report: ({ name }: { name: string }) => `report ${name}`,
  calendar: ({ name }: { name: string }) => `calendar ${name}`,
  wayOut: ({ name }: { name: string }) => `way out ${name}`,
  identity: ({ name }: { name: string }) => `identity ${name}`,
  row: ({ number }: { number: number }) => `row ${number}`,
  column: ({ name }: { name: string }) => `column ${name}`,
  cellIn: ({ where, name }: { where: string; name: string }) => `${where}, cell ${name}`,
  sheet: ({ name }: { name: string }) => `sheet ${name}`,
};
