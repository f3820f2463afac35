/** Members of a list by their identifiers, made when one is first asked for: lists are replaced, never changed. */
const maps = new WeakMap<object, Map<string, unknown>>()

/** The member of a list with an identifier, which `idOf` tells: always the same for one list. */
export function memberOf<T>(list: readonly T[] | undefined, id: string, idOf: (member: T) => string): T | undefined {
  if (!list) return undefined
  let map = maps.get(list)
  if (!map) {
    map = new Map(list.map((member) => [idOf(member), member]))
    maps.set(list, map)
  }
  return map.get(id) as T | undefined
}
