/**
 * The value of what a person typed into a number field: a number, a sum such as `1920/3` or `2*(3+1)`, with or without its unit.
 * Null if it cannot be read.
 */
export function sum(text: string, unit = ''): number | null {
  let rest = text.trim().replaceAll(',', '.').replaceAll('×', '*').replaceAll('−', '-')
  const suffix = unit.replaceAll('×', '*')
  if (suffix && rest.endsWith(suffix)) rest = rest.slice(0, -suffix.length)
  rest = rest.replaceAll(/\s+/g, '')
  let at = 0
  const factor = (): number => {
    const sign = rest[at]
    if (sign === '-' || sign === '+') {
      at += 1
      return sign === '-' ? -factor() : factor()
    }
    if (rest[at] === '(') {
      at += 1
      const inner = terms()
      if (rest[at] !== ')') return Number.NaN
      at += 1
      return inner
    }
    const match = /^\d*\.?\d+|^\d+\.?/.exec(rest.slice(at))
    if (!match) return Number.NaN
    at += match[0].length
    return Number(match[0])
  }
  const product = (): number => {
    let value = factor()
    while (rest[at] === '*' || rest[at] === '/') {
      const divide = rest[at] === '/'
      at += 1
      const next = factor()
      value = divide ? value / next : value * next
    }
    return value
  }
  const terms = (): number => {
    let value = product()
    while (rest[at] === '+' || rest[at] === '-') {
      const minus = rest[at] === '-'
      at += 1
      const next = product()
      value = minus ? value - next : value + next
    }
    return value
  }
  if (!rest) return null
  const value = terms()
  return at === rest.length && Number.isFinite(value) ? value : null
}
