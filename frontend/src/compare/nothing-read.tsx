import Box from "@mui/material/Box";

import type { StudyView } from "../api/client";
import { useColours } from "../api/hooks";
import { isNamed } from "../read/colours";

/** Why nothing can be compared: nothing was read, or the zones that were are not named yet. */
export function NothingRead({ study }: { study: StudyView }) {
  const unnamed = useColours(study.id).data?.zones.filter((one) => !isNamed(one.zone)).length ?? 0;
  return (
    <Box sx={{ my: 2 }}>
      {unnamed > 0
        ? `${unnamed} ${unnamed === 1 ? "zone is" : "zones are"} read and not named yet. Select the cloths in Read and name them: then they are compared.`
        : "No swatch is read yet. Print a sheet in Read, lay the dry swatches on it and photograph them."}
    </Box>
  );
}
