/** A press that makes something: pressed again before it is made, it is the same press. */
export function useOnce<A extends unknown[], T>(
  make: (...given: A) => Promise<T>,
): (...given: A) => Promise<T> {
  const underWay = new Map<string, Promise<T>>()
  return (...given) => {
    const press = JSON.stringify(given)
    const earlier = underWay.get(press)
    if (earlier) return earlier
    const mine = make(...given).finally(() => underWay.delete(press))
    underWay.set(press, mine)
    return mine
  }
}
