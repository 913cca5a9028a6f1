/** A number as it is typed at the bench, with a comma or a point; null where there is none. */
export const typedNumber = (text: string) => (text.trim() === "" ? null : Number(text.trim().replace(",", ".")));
