/** A name that nothing else has, anywhere. Pages of the plain network are not given one by the browser. */
export const uniqueId = (): string => ('randomUUID' in crypto ? crypto.randomUUID() : `page-${Date.now()}-${performance.now()}`);

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
