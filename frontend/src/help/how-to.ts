import type { View } from "../shell/place";

interface HowTo {
  what: string;
  steps: readonly string[];
}

/** What each view is for, and what to do in it. */
export const HOW_TO: Record<View, HowTo> = {
  plan: {
    what: "Here you say what is crossed with what, what can be left out, and see what the grid will be able to tell.",
    steps: [
      "Choose the factors and their levels in the panel: fibres, mordants, dyes, pH, iron and others. A dye of your own is added in the same list.",
      "Select cells that you can do without and leave them out. Controls stay: without them nothing can be compared.",
      "Look at “Tell”: which questions this grid can answer, and how small a difference it would show.",
      "Look at “Vessels”: which swatches share a pot. What is in pots of its own is told against how pots differ.",
    ],
  },
  weigh: {
    what: "How much of everything: fibre, mordants, dyes, water, stocks. Every figure shows how it was worked out.",
    steps: [
      "Print the bench papers, or take this list to the bench on a phone.",
      "Cut and weigh the pieces; enter real weights where they differ, and all amounts follow.",
      "Make the stocks. Small doses are measured from them in millilitres.",
      "Go through the baths one by one.",
    ],
  },
  dye: {
    what: "What to do now, in which pot, until when. What you tick becomes the record.",
    steps: [
      "Choose a vessel. Its next step stands large; tick it when it is done.",
      "Timers run in the dock at the bottom of every screen, also after a reload.",
      "Something went wrong? Say so at the step: it boiled, a swatch went into another pot. It is kept with the swatches that it concerns.",
      "Days lays all baths out over your days; Log holds everything that was entered.",
    ],
  },
  read: {
    what: "The real colour of each swatch, from photographs that hold a chart, or from an instrument.",
    steps: [
      "Print the sheets. Each swatch has its cell.",
      "Lay chart and dry swatches on a sheet, and photograph it in even light, from above, without flash.",
      "Drop the photos here. Each cell is found, measured, and what is doubtful is said with its cure.",
      "Look at them and accept what is right. A reading is never changed; a better one is added.",
    ],
  },
  fade: {
    what: "What light and washing do to the colours, and how fast.",
    steps: [
      "Begin a trial: which swatches, which stages, in which window or which wash.",
      "Cut a piece that is kept dark from each swatch: it is what all later ones are compared with.",
      "Read the pieces at each stage, as in Read. Today says when one is due.",
      "See what lasts, the curves, and how colours will look after years in a place of your Shelf.",
    ],
  },
  compare: {
    what: "Which differences are real, what makes them, and what to use or to test next.",
    steps: [
      "Choose a reference: every cell then shows how far it is from it, and whether that can be told.",
      "What is real: the effect of each factor over all the others.",
      "Lay swatches of any study side by side on the table; look for a colour; fill gaps.",
      "What next: where another swatch would tell you most.",
    ],
  },
  today: {
    what: "What runs, what is due and what waits, over all studies.",
    steps: ["Go from here to the place where it is done."],
  },
  shelf: {
    what: "What you have: fibres, mordants, dye lots, adjusters, vessels, charts, waters, places with light.",
    steps: [
      "Enter a thing once; every study then knows its numbers.",
      "“From a list” takes a table from a spreadsheet.",
    ],
  },
  safekeeping: {
    what: "Copies of the file, who may come in, and taking studies from one file to another.",
    steps: ["Make a copy, and keep one on another disk.", "Look now and then whether a copy can be read."],
  },
  words: { what: "All words, in a line each.", steps: ["Type a part of a word."] },
  trainer: {
    what: "Five minutes for the eye: how small a difference you see, and which way you lean.",
    steps: ["Go through the tasks. The result is kept on this device and shown where fading is rated by eye."],
  },
  settings: {
    what: "How this device shows things: light or dark, units, dates, paper.",
    steps: ["Choose; it holds for this device, and nothing that is stored changes."],
  },
};
