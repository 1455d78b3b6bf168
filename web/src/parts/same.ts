/** Whether two values that travel as JSON are the same. */
export function isSame(one: unknown, other: unknown): boolean {
  return one === other || JSON.stringify(one) === JSON.stringify(other);
}
