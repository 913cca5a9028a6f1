/** A file under a name of a form, as a request sends it; the types of the API know files as text. */
export function fileForm<Name extends string>(name: Name, file: File) {
  const form = new FormData();
  form.append(name, file);
  return { body: { [name]: file.name } as Record<Name, string>, bodySerializer: () => form };
}

/** Tells a chosen file from another. */
export const fileKey = (file: File) => `${file.name} ${file.lastModified} ${file.size}`;
