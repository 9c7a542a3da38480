/** How well words that were typed fit a text: 0 not at all; a slip of one letter is let pass in words of four or more. */
export function fitness(typed: string, text: string): number {
  const wanted = words(typed)
  const there = words(text)
  if (!wanted.length) return 1
  let sum = 0
  for (const word of wanted) {
    const best = Math.max(0, ...there.map((candidate) => likeness(word, candidate)))
    if (best <= 0) return 0
    sum += best
  }
  return sum / wanted.length
}

/** What fits, the best first; of those that fit alike, those that are called so before those with other words for it. */
export function found<T>(typed: string, entries: T[], called: (entry: T) => string, words: (entry: T) => string = () => ''): T[] {
  return entries
    .map((entry, place) => ({ entry, place, fit: fitness(typed, `${called(entry)} ${words(entry)}`) }))
    .filter((e) => e.fit > 0)
    .map((e) => ({ ...e, own: fitness(typed, called(e.entry)) }))
    .sort((a, b) => b.fit - a.fit || b.own - a.own || a.place - b.place)
    .map((e) => e.entry)
}

const MOST_KEPT = 4000
const parted = new Map<string, string[]>()

/** A text's words in plain small letters; those of texts that are looked through again and again are kept. */
function words(text: string): string[] {
  let found = parted.get(text)
  if (!found) {
    found = text
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[\u0300-\u036f]/g, '')
      .split(/[^\p{L}\p{N}]+/u)
      .filter(Boolean)
    if (parted.size >= MOST_KEPT) parted.clear()
    parted.set(text, found)
  }
  return found
}

function likeness(typed: string, word: string): number {
  if (word === typed) return 4
  if (word.startsWith(typed)) return 3
  if (typed.length >= 3 && word.includes(typed)) return 2
  // Compared with as much of the word as was typed, one letter more or less.
  if (typed.length >= 4 && mayBeAlike(typed, word) && [0, 1, -1].some((more) => slips(typed, word.slice(0, typed.length + more)) <= 1)) return 1.5
  return 0
}

/** Of two words one slip apart at most, the first or second letters agree, or one's first is the other's second. */
const mayBeAlike = (a: string, b: string): boolean => a[0] === b[0] || a[1] === b[1] || a[0] === b[1] || a[1] === b[0]

/** Letters put in, left out, changed, or two that follow each other swapped (the restricted distance of Damerau and Levenshtein). */
export function slips(a: string, b: string): number {
  const rows: number[][] = [Array.from({ length: b.length + 1 }, (_, j) => j)]
  for (let i = 1; i <= a.length; i += 1) {
    const row = [i]
    for (let j = 1; j <= b.length; j += 1) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1
      let best = Math.min((rows[i - 1]?.[j] ?? 0) + 1, (row[j - 1] ?? 0) + 1, (rows[i - 1]?.[j - 1] ?? 0) + same)
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) best = Math.min(best, (rows[i - 2]?.[j - 2] ?? 0) + 1)
      row.push(best)
    }
    rows.push(row)
  }
  return rows[a.length]?.[b.length] ?? 0
}
