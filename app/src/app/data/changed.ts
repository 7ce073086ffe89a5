/** A map with one entry set, or with null taken out; the map itself stays as it is. */
export function changed<K, V>(map: ReadonlyMap<K, V>, key: K, value: V | null): ReadonlyMap<K, V> {
  const next = new Map(map);
  if (value === null) next.delete(key);
  else next.set(key, value);
  return next;
}
