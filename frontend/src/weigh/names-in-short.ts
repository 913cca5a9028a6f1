/** "D1 to D4, D7": neighbours with the same letter are drawn together. */
export function namesInShort(names: readonly string[]): string {
  const runs: string[][] = [];
  for (const name of [...names].sort((one, other) => one.localeCompare(other, "en", { numeric: true }))) {
    const last = runs.at(-1);
    const before = last?.at(-1);
    if (last && before && follows(before, name)) last.push(name);
    else runs.push([name]);
  }
  return runs.map((run) => (run.length > 2 ? `${run[0] ?? ""} to ${run.at(-1) ?? ""}` : run.join(", "))).join(", ");
}

function follows(before: string, name: string): boolean {
  const [, letters = "", number = ""] = /^([A-Za-z]*)(\d+)$/.exec(before) ?? [];
  return number !== "" && name === `${letters}${Number(number) + 1}`;
}
