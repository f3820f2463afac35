/** A new member of a list (a rim, a shadow, a stroke): it is told from the others by its identifier, whoever else adds one meanwhile. */
export function newMember<T extends object>(value: T): T & { id: string } {
  return { ...value, id: crypto.randomUUID() }
}
