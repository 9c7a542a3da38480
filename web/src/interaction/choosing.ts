/** Which of a list are chosen after a click: plain chooses one, `toggle` adds or takes away, `range` reaches from the last one. */
export function chosenAfter(order: string[], chosen: string[], id: string, how: { toggle: boolean; range: boolean }): string[] {
  const anchor = chosen.at(-1)
  if (how.range && anchor !== undefined && order.includes(anchor)) {
    const [from, to] = [order.indexOf(anchor), order.indexOf(id)].sort((a, b) => a - b) as [number, number]
    const range = order.slice(from, to + 1)
    return [...chosen.filter((c) => !range.includes(c)), ...range.filter((c) => c !== anchor), anchor]
  }
  if (how.toggle) return chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id]
  return [id]
}

/** The id `way` places further in the list, stopping at its ends. */
export function neighbour(order: string[], id: string | undefined, way: number): string | undefined {
  if (!order.length) return undefined
  const at = id === undefined ? -1 : order.indexOf(id)
  if (at < 0) return order[0]
  return order[Math.max(0, Math.min(order.length - 1, at + way))]
}

const OF_SLIDERS = /^(Arrow|Home|End|Page)/

/** Whether a key belongs to what has the focus: all keys to a text field, those that move it to a slider. */
export function typing(target: EventTarget | null, key = 'Home'): boolean {
  if (target instanceof HTMLElement && target.matches('[role=slider]')) return OF_SLIDERS.test(key)
  return target instanceof HTMLElement && (target.matches('input:not([type=checkbox]):not([type=color]), textarea, select, [role=menuitem]') || target.isContentEditable)
}
