/** A name for use inside files, made of what a person calls a thing; numbered when it is taken. */
export function freeId(name: string, taken: readonly string[], otherwise: string): string {
  const slug =
    name
      .toLowerCase()
      .replace(/\.[^.]*$/, '')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 40) || otherwise;
  let id = slug;
  for (let n = 2; taken.includes(id); n++) id = `${slug}-${n}`;
  return id;
}
