/** What a spreadsheet would take for a formula; the server's `plain_text` makes it text in the same way. */
const FORMULA_START = /^[=+\-@\t\r']/;
const NUMBER = /^[-+−]?\d+([.,]\d+)?$/;

/** The cells of a table as CSV (RFC 4180), as they are read on the screen. */
export function csvOf(table: HTMLTableElement): string {
  return (
    [...table.rows]
      .map((row) => [...row.cells].flatMap((cell) => [quoted(wordsOf(cell)), ...spanned(cell)]).join(","))
      .join("\r\n") + "\r\n"
  );
}

const spanned = (cell: HTMLTableCellElement) => Array<string>(Math.max(0, cell.colSpan - 1)).fill("");

function wordsOf(cell: HTMLTableCellElement): string {
  const copy = cell.cloneNode(true) as HTMLElement;
  // Chips of colour and what is not spoken hold no words of the table.
  copy.querySelectorAll("svg, [aria-hidden=true], button").forEach((one) => {
    if (one.tagName === "BUTTON") one.replaceWith(one.textContent);
    else one.remove();
  });
  return copy.textContent.replace(/\s+/g, " ").trim();
}

/** Words as a spreadsheet takes them: numbers as numbers, and nothing as a formula. */
export const plainText = (words: string): string =>
  NUMBER.test(words) ? words.replace("−", "-") : FORMULA_START.test(words) ? `'${words}` : words;

function quoted(words: string): string {
  const plain = plainText(words);
  return /[",\r\n]/.test(plain) ? `"${plain.replaceAll('"', '""')}"` : plain;
}
