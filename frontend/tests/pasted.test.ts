import { expect, it } from "vitest";

import { pastedRows } from "../src/shell/pasted";

it("reads what a spreadsheet copies, and what is typed with semicolons", () => {
  expect(pastedRows("Wool\t5.8\r\nSilk\t4,2\r\n\r\n")).toEqual([
    ["Wool", "5.8"],
    ["Silk", "4,2"],
  ]);
  expect(pastedRows("Wool; 5.8\nSilk;4")).toEqual([
    ["Wool", "5.8"],
    ["Silk", "4"],
  ]);
});

it("keeps commas, as they may be decimal, and takes the quotation marks off", () => {
  expect(pastedRows('"Weld, dried"\n4,5')).toEqual([["Weld, dried"], ["4,5"]]);
  expect(pastedRows(" \n\t\n")).toEqual([]);
});
