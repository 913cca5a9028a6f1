/** A word of the trade or of this tool: what it means in a line, and more where it needs more. */
export interface Term {
  key: string;
  word: string;
  /** Other forms under which it is looked for. */
  also?: readonly string[];
  short: string;
  more?: string;
}

export const TERMS: readonly Term[] = [
  {
    key: "study",
    word: "Study",
    short: "One question, the grid of swatches that is to answer it, and all that happens to them.",
  },
  {
    key: "grid",
    word: "Grid",
    short: "The crossed factors: each cell is one combination of their levels.",
    more: "It stays where it is while the lens changes, and so does what you have selected.",
  },
  {
    key: "lens",
    word: "Lens",
    short: "A way to look at the same grid: Plan, Weigh, Dye, Read, Fade, Compare.",
    more: "They stand in the order of the work. The keys 1 to 6 change them.",
  },
  {
    key: "factor",
    word: "Factor",
    short: "What is varied on purpose: fibre, mordant, dye, strength, pH, iron, heat and so on.",
  },
  { key: "level", word: "Level", short: "One value of a factor: alum is a level of mordant, pH 9 one of dye pH." },
  { key: "cell", word: "Cell", short: "One combination of levels; its swatches are repeats of each other." },
  {
    key: "control",
    word: "Control",
    short: "A swatch with a treatment left out on purpose, such as undyed cloth or dye without mordant.",
    more: "Without one nobody can say what the treatment did. Controls are marked ○ in the grid.",
  },
  { key: "swatch", word: "Swatch", short: "One piece of cloth or yarn in one cell, with a code and a tie of its own." },
  {
    key: "piece",
    word: "Piece",
    short: "A part of a swatch that is cut off for a purpose: kept dark, put in the light, washed.",
  },
  {
    key: "code",
    word: "Code",
    short: "Four letters and digits that name a swatch; none of them sounds or looks like another.",
  },
  {
    key: "tie",
    word: "Tie",
    also: ["knots", "notches"],
    short: "Knots or notches that tell a swatch apart in the bath, where no ink lasts.",
  },
  {
    key: "bridge",
    word: "Bridge piece",
    also: ["bridge"],
    short:
      "A piece of the same cloth that goes into every pot of a kind, so that pots can be told from what was varied between them.",
  },
  {
    key: "repeat",
    word: "Repeat",
    also: ["replicate"],
    short: "A second swatch of the same cell. Only repeats show how far chance alone goes.",
  },
  { key: "vessel", word: "Vessel", also: ["pot", "jar"], short: "A pot or jar that holds one bath at a time." },
  {
    key: "bath",
    word: "Bath",
    short: "What happens in a vessel: scour, tannin, mordant, dye, pH, iron, rinse, steam.",
  },
  {
    key: "run",
    word: "Run",
    short: "A bath that has begun. What it holds and its recipe stand from then on, whatever the plan says later.",
  },
  {
    key: "wof",
    word: "WOF",
    also: ["weight of fibre"],
    short: "Weight of the dry fibre. Doses are per cent of it: 10 % WOF is 10 g for 100 g of dry fibre.",
  },
  {
    key: "liquor",
    word: "Liquor ratio",
    also: ["liquor"],
    short: "How much bath there is for the fibre: 40:1 is 40 mL for each gram of dry fibre.",
  },
  {
    key: "stock",
    word: "Stock",
    short: "A solution of known strength, so that small amounts are measured in millilitres and not weighed.",
  },
  {
    key: "scour",
    word: "Scour",
    short: "A hot wash with detergent or soda before mordanting: what is not wetted evenly is not dyed evenly.",
  },
  { key: "mordant", word: "Mordant", short: "A metal salt that binds the dye to the fibre, such as alum." },
  {
    key: "tannin",
    word: "Tannin",
    short: "A plant extract that cotton and linen take up, and to which alum then holds.",
  },
  {
    key: "iron",
    word: "Iron",
    also: ["iron modifier", "saddening"],
    short:
      "Iron(II) sulphate in or after the dye bath: it darkens and dulls the colour, and weakens wool and silk when there is much of it.",
  },
  {
    key: "route",
    word: "Route",
    short: "How iron is given: in the dye bath, in a bath of its own, or as a mordant before.",
  },
  {
    key: "afterbath",
    word: "After-bath",
    short: "A bath that follows the dye bath, with another pH or with iron, and changes the colour that is there.",
  },
  { key: "exhaust", word: "Exhaust bath", short: "A dye bath that was used and still gives colour: a paler one." },
  {
    key: "lot",
    word: "Dye lot",
    short: "One harvest or one bag of a dye. Two lots of one plant are two dyes until they have been compared.",
  },
  {
    key: "buffer",
    word: "Alkalinity",
    short: "How much acid a water takes up before its pH moves. Hard water turns back to neutral by itself.",
  },
  {
    key: "chart",
    word: "Chart",
    short: "A card with patches of known colour that lies in every photo; the photo is corrected by it.",
  },
  {
    key: "sheet",
    word: "Sheet",
    short: "The printed page with corner markers, on which chart and swatches lie when they are photographed.",
  },
  {
    key: "reading",
    word: "Reading",
    short: "One measured colour of one piece at one time. It is never changed; a better one is added.",
  },
  {
    key: "lab",
    word: "L* a* b*",
    also: ["lightness"],
    short: "The colour in three numbers: L* from black 0 to white 100, a* from green to red, b* from blue to yellow.",
  },
  { key: "chroma", word: "Chroma", short: "How vivid a colour is: its distance from the grey of the same lightness." },
  { key: "hue", word: "Hue", short: "Which colour it is, as an angle: 0° red, 90° yellow, 180° green, 270° blue." },
  {
    key: "de00",
    word: "ΔE00",
    also: ["difference"],
    short:
      "How far two colours are apart, as the eye sees it (CIEDE2000). Around 1 is just seen side by side, 3 is seen by anybody.",
  },
  {
    key: "doubt",
    word: "±",
    also: ["uncertainty"],
    short:
      "How far off a number may be: in about two of three cases the true one lies within it, in nineteen of twenty within twice as much.",
  },
  {
    key: "tell",
    word: "Can be told",
    also: ["≈"],
    short: "A difference larger than measuring alone would give. What is marked ≈ is not.",
  },
  { key: "levelness", word: "Levelness", short: "How even a dyeing is over the piece, as ΔE00 from its mean." },
  {
    key: "zone",
    word: "Zone",
    short: "A part of a piece with a colour of its own: a print, a covered half, a dipped corner.",
  },
  {
    key: "state",
    word: "State",
    short: "A swatch after one of its baths: undyed, as mordanted, as dyed, after iron. A reading shows one state.",
  },
  {
    key: "trial",
    word: "Trial",
    short: "Light or washing, counted, given to pieces of some swatches while others are kept dark.",
  },
  { key: "stage", word: "Stage", short: "A point of a trial at which its pieces are read." },
  {
    key: "dose",
    word: "Dose",
    short: "How much a piece has had: light in lux hours, or a number of washes.",
    more: "Hours alone say little: a north window and a south window differ tenfold.",
  },
  {
    key: "greyscale",
    word: "Grey scale",
    also: ["rating", "grade"],
    short: "Fastness from 5 (no change) to 1 (much change), by pairs of grey (ISO 105-A02).",
  },
  {
    key: "bluewool",
    word: "Blue wool",
    short:
      "Eight blue cloths that fade at known speeds, one to the next about twice as slowly; they say how much light there was (ISO 105-B08).",
  },
  {
    key: "effect",
    word: "Effect",
    short:
      "What changing one factor does to the colour, on average over all else, and how far that depends on the others.",
  },
  { key: "reference", word: "Reference", short: "The swatch or cloth from which the differences are taken." },
  {
    key: "record",
    word: "Record",
    short: "What happened. Nothing changes it but new entries and corrections, which stand beside what they correct.",
  },
];

const byKey = new Map(TERMS.map((term) => [term.key, term]));

export function termOf(key: string): Term | undefined {
  return byKey.get(key);
}

/** The terms that have some words in them, those that are called so first. */
export function findTerms(text: string): readonly Term[] {
  const wanted = text.trim().toLowerCase();
  if (!wanted) return TERMS;
  const named = (term: Term) => [term.word, ...(term.also ?? [])].some((word) => word.toLowerCase().includes(wanted));
  const told = (term: Term) => `${term.short} ${term.more ?? ""}`.toLowerCase().includes(wanted);
  return [...TERMS.filter(named), ...TERMS.filter((term) => !named(term) && told(term))];
}
