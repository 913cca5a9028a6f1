import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { findTerms } from "./glossary";

/** All words of the trade and of the tool, on a page of their own. */
export function WordsView() {
  const [text, setText] = useState("");
  const found = findTerms(text);
  return (
    <Box sx={{ flex: 1, overflow: "auto", p: { xs: 1.5, sm: 3 } }}>
      <Box component="h1" sx={{ mt: 0, fontSize: 20 }}>
        Words
      </Box>
      <TextField
        label="Find a word"
        value={text}
        onChange={(event) => setText(event.target.value)}
        sx={{ maxWidth: 360 }}
      />
      <Box component="dl" sx={{ columnWidth: 340, columnGap: 4, mt: 2 }}>
        {found.map((term) => (
          <Box key={term.key} sx={{ breakInside: "avoid", pb: 1.5 }}>
            <Box component="dt" sx={{ fontWeight: 700 }}>
              {term.word}
              {term.also && (
                <Box component="span" sx={{ fontWeight: 400, color: "text.secondary" }}>
                  {" "}
                  {term.also.join(", ")}
                </Box>
              )}
            </Box>
            <Box component="dd" sx={{ m: 0 }}>
              {term.short} {term.more}
            </Box>
          </Box>
        ))}
      </Box>
      {found.length === 0 && (
        <Box sx={{ mt: 2 }}>No word is like that. The documentation that comes with the application may have it.</Box>
      )}
    </Box>
  );
}
