export const message = {
  cannotShowPictureSuchFile: ({ name }: { name: string }) =>
    `Cannot show the picture \`${name}\`: there is no such file among the templates.`,
  uploadBesideTemplatesCorrectName: () => "Upload it beside the templates, or correct its name.",
  cannotMakeTableWithoutColumns: () => "Cannot make a table without columns, or with a style, in a message.",
  nameThem: () => 'Name them: {{table line: visit_date, unit, fee as "#,##0.00" total}}.',
  cannotUseMessageBodyScripts: () => "Cannot use a message body with scripts: mail programs refuse them.",
  takeScriptOut: () => "Take the script out.",
};
