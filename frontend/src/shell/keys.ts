/** The keys and the entries of a record as what they are; the language itself says only that they are text. */
export const keysOf = <Key extends string>(record: Readonly<Record<Key, unknown>>) => Object.keys(record) as Key[];

export const entriesOf = <Key extends string, Value>(record: Readonly<Record<Key, Value>>) =>
  Object.entries(record) as [Key, Value][];

export const hasKey = <Key extends string>(
  record: Readonly<Record<Key, unknown>>,
  text: string | undefined,
): text is Key => text !== undefined && Object.hasOwn(record, text);
