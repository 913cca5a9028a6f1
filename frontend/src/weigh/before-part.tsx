import Box from "@mui/material/Box";
import Link from "@mui/material/Link";

import type { Schema, StudyView } from "../api/client";
import { counted } from "../shell/counted";
import { Caution, Part } from "../shell/said";
import { massWords, volumeWords } from "../settings/quantities";
import { waysNow } from "../settings/ways";
import { Word } from "../help/word";
import { FigureRow } from "./figure-row";

/** Cutting, stocks and extracts: what is made ready before the first bath. */
export function BeforePart({ study, view }: { study: StudyView; view: Schema["WeighView"] }) {
  const { weighing, cut_list: cut } = view;
  return (
    <>
      <Part title="Before the first bath">
        <div>
          {cut.swatches === 0
            ? "Everything is cut and weighed."
            : `Cut and weigh ${counted(cut.swatches, "swatch")}: ${massWords(cut.grams, 0)} of dry fibre.`}
        </div>
        {study.recipes_kept && (
          <Box sx={{ fontSize: 13, color: "text.secondary" }}>
            Recipes as they stood when dyeing began: later changes on the Shelf do not move them.
          </Box>
        )}
        {cut.fibres.map((fibre) => (
          <FigureRow
            key={fibre.fibre}
            name={`${fibre.name}, ${fibre.swatches}`}
            value={cutWords(fibre)}
            working={fibre.working}
            source={`${fibre.tie_words} Each is dyed whole, then cut: ${cut.pieces.join(", ")}.`}
          />
        ))}
        {weighing.cautions.map((caution) => (
          <Caution key={caution}>{caution}</Caution>
        ))}
      </Part>
      {study.alike_ties.length > 0 && (
        <Part title="Only the code tells these apart">
          <Box sx={{ fontSize: 13 }}>
            <Word of="tie">Ties</Word> of up to seven knots do not reach for all pieces of this study. These share a
            tie, never in one vessel: keep their code labels on them when they lie on one table.
          </Box>
          {study.alike_ties.slice(0, 12).map((alike) => (
            <Box key={alike.tie} sx={{ fontSize: 13 }}>
              <strong>{alike.tie}</strong>: {alike.swatches.join(" ")}
            </Box>
          ))}
          {study.alike_ties.length > 12 && <div>and {study.alike_ties.length - 12} more</div>}
        </Part>
      )}
      {weighing.stocks.length > 0 && (
        <Part title="Stocks to make">
          {weighing.stocks.map((stock) => (
            <FigureRow
              key={stock.name + stock.strength_percent}
              name={`${stock.name}, ${stock.strength_percent} %`}
              value={stockWords(stock)}
              working={stock.working}
              source="common practice: small doses are measured as volume"
            />
          ))}
        </Part>
      )}
      {weighing.extractions.length > 0 && (
        <Part title="Extracts to share">
          {weighing.extractions.map((one) => (
            <Box key={one.key}>
              <FigureRow
                name={`${one.name}, ${one.way}`}
                value={`${massWords(one.grams)}${one.spelled ? ` (${one.spelled})` : ""} in ${volumeWords(one.water_ml)}`}
                working={one.shares.map(shareWords).join(", ")}
                source={one.note}
              />
            </Box>
          ))}
        </Part>
      )}
      <Part title="On paper">
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1.5 }}>
          {[
            [`bench.pdf?paper=${waysNow().paper}`, "Bench papers (PDF)"],
            ["swatches.csv", "Swatches (CSV)"],
            ["amounts.csv", "Amounts (CSV)"],
            ["cut-list.csv", "Cut list (CSV)"],
            ["bench.json", "All of it (JSON)"],
          ].map(([file, words]) => (
            <Link
              key={file}
              href={`/api/studies/${study.id}/weigh/${file}`}
              target="_blank"
              rel="noreferrer"
              color="inherit">
              {words}
            </Link>
          ))}
        </Box>
      </Part>
    </>
  );
}

function shareWords(share: Schema["ExtractShare"]): string {
  const when = share.moment ? `, ${share.moment}` : "";
  const drawn = share.drawn_after == null ? "" : `, drawn off after round ${share.drawn_after}`;
  return `${share.vessel} ${volumeWords(share.volume_ml)}${when}${drawn}`;
}

function cutWords(fibre: Schema["FibreCut"]): string {
  if (fibre.cloth_length_cm != null) return `${(fibre.cloth_length_cm / 100).toFixed(1)} m of cloth`;
  if (fibre.yarn_m != null) return `${fibre.yarn_m.toFixed(0)} m of yarn`;
  return massWords(fibre.grams);
}

function stockWords(stock: Schema["Stock"]): string {
  const spoons = stock.spoons ? ` (by spoon: ${stock.spoons})` : "";
  if (stock.strong_ml == null || stock.dilute_ml == null)
    return `${massWords(stock.grams)}${spoons} in ${volumeWords(stock.volume_ml)}`;
  const strong = `${massWords(stock.grams)} in ${volumeWords(stock.strong_ml)}`;
  return stock.dilute_ml < stock.volume_ml
    ? `${strong}, ${volumeWords(stock.dilute_ml)} of it to ${volumeWords(stock.volume_ml)}`
    : strong;
}
