/** What was copied from a spreadsheet, as rows of cells; lines that are typed may part their cells by semicolons. */
export function pastedRows(text: string): string[][] {
  return text
    .split(/\r?\n/)
    .map((line) => line.split(/[\t;]/).map((cell) => cell.trim().replace(/^"(.*)"$/, "$1")))
    .filter((row) => row.some((cell) => cell !== ""));
}
