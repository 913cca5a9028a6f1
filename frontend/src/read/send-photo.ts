import { answered, api } from "../api/client";
import { fileForm } from "../api/file-form";

/** A photo on its way to be measured; answers with what was found, or throws the server's words. */
export const sendPhoto = (file: File, signal?: AbortSignal) =>
  answered(api.POST("/api/photos", { ...fileForm("photo", file), ...(signal && { signal }) }));

/** A photo that holds a chart and no sheet. */
export const sendWithoutSheet = (study: number, file: File, chart: string) =>
  answered(
    api.POST("/api/studies/{study_id}/photos/without-sheet", {
      params: { path: { study_id: study }, query: chart ? { chart } : {} },
      ...fileForm("photo", file),
    }),
  );
