import createClient from "openapi-fetch";
import type { FetchResponse } from "openapi-fetch";
import type { MediaType, ResponseObjectMap, SuccessResponse } from "openapi-typescript-helpers";

import type { components, paths } from "./schema";

export type Schema = components["schemas"];
export type StudyPlan = Schema["StudyPlan"];
export type StudyView = Schema["StudyView"];
export type GridCell = Schema["GridCell"];
export type FactorKind = Schema["Factor"]["kind"];
export type Level = Schema["Level"];
export type Vessel = Schema["Vessel"];
export type Reading = Schema["Reading"];
export type Photo = Schema["Photo"];
export type TrialView = Schema["TrialView"];
export type Shelf = Schema["Shelf"];

export const api = createClient<paths>({ baseUrl: window.location.origin });

interface Fault {
  field: string;
  given: string;
  allowed: string;
  cure: string;
}

/** What the server said no to, in its words for the person. */
export class Problem extends Error {
  readonly code: string;
  readonly status: number;
  readonly cure: string;
  readonly faults: Fault[];
  readonly revision: number | undefined;

  constructor(body: unknown, status: number) {
    const said = (body ?? {}) as Record<string, unknown>;
    super(typeof said["title"] === "string" ? said["title"] : "The server did not answer.");
    this.code =
      String(said["type"] ?? "")
        .split(":")
        .pop() ?? "";
    this.status = status;
    this.cure = typeof said["detail"] === "string" ? said["detail"] : "Try again in a moment.";
    this.faults = Array.isArray(said["errors"]) ? (said["errors"] as Fault[]) : [];
    this.revision = typeof said["revision"] === "number" ? said["revision"] : undefined;
  }
}

/** What the server sends for an operation, as the schema says it: the client's own type makes lists of pairs and triples. */
type Sent<Operation extends Record<string | number, unknown>, Given, Media extends MediaType> = Given extends {
  parseAs: "blob";
}
  ? Blob
  : SuccessResponse<ResponseObjectMap<Operation>, Media>;

/** The data of an answer; throws a Problem when the server refused. */
export async function answered<Operation extends Record<string | number, unknown>, Given, Media extends MediaType>(
  asked: Promise<FetchResponse<Operation, Given, Media>>,
): Promise<Sent<Operation, Given, Media>> {
  const answer = await asked;
  if (!answer.response.ok) throw new Problem(answer.error, answer.response.status);
  return answer.data as Sent<Operation, Given, Media>;
}
