/** What this browser keeps under a name; null where it keeps nothing, or nothing that can be read. */
export function readKept(storage: Storage, name: string): unknown {
  try {
    return JSON.parse(storage.getItem(name) ?? "null");
  } catch {
    return null;
  }
}

/** The same laid over what holds without it: only those members that are of the sort they are there, so that what an older version kept breaks nothing. */
export function keptOver<Plain extends object>(plain: Plain, storage: Storage, name: string): Plain {
  const found = readKept(storage, name);
  if (typeof found !== "object" || found === null) return plain;
  const fitting = Object.entries(plain).flatMap(([key, value]) => {
    const other: unknown = Object.getOwnPropertyDescriptor(found, key)?.value;
    return typeof other === typeof value && Array.isArray(other) === Array.isArray(value)
      ? [[key, other] as const]
      : [];
  });
  return Object.assign({ ...plain }, Object.fromEntries(fitting));
}

/** Keeps it, if there is room: what is on the server is safe all the same. */
export function keep(storage: Storage, name: string, value: unknown): void {
  try {
    storage.setItem(name, JSON.stringify(value));
  } catch {
    // No room on this device, or it may not keep anything.
  }
}
