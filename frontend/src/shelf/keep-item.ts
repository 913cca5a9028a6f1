import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import type { ShelfItem } from "./kinds";

/** What is known so far of a thing: what is not said takes its usual value, and the server checks all of it. */
type ItemDraft = Partial<ShelfItem> & Pick<ShelfItem, "kind" | "key" | "name">;
type Body = Schema["DyeLot"];

export const addItem = (item: ItemDraft) => answered(api.POST("/api/shelf", { body: item as Body }));
export const changeItem = (item: ItemDraft) => answered(api.PUT("/api/shelf", { body: item as Body }));
