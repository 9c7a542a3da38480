import type { TemplateFacts } from '@/api/client'
import { useProject } from '@/project/project'
import { Select } from '@/ui/choice'
import { Tick } from '@/ui/row'

/** What is looked for in the library. */
export type Wish = { kind: string; pictures: string; mood: string; length: string; shaped: boolean; liked: boolean; own: boolean }

export const ANY: Wish = { kind: '', pictures: '', mood: '', length: '', shaped: false, liked: false, own: false }

const KINDS = [
  ['', 'All kinds'],
  ['treatment', 'Treatments'],
  ['opening', 'Openings'],
  ['body', 'Bodies'],
  ['closing', 'Closings'],
  ['film', 'Whole films'],
] as const

const PICTURES = [
  ['', 'Any pictures'],
  ['one', 'One picture'],
  ['few', 'Two to four'],
  ['many', 'Five or more'],
  ['words', 'With words'],
] as const

const MOODS = [
  ['', 'Any mood'],
  ['calm', 'Calm'],
  ['warm', 'Warm'],
  ['lively', 'Lively'],
  ['grand', 'Grand'],
] as const

const LENGTHS = [
  ['', 'Any length'],
  ['short', 'To 6 seconds'],
  ['long', 'Longer'],
] as const

const SHORT_S = 6

function fitsPictures(t: TemplateFacts, wanted: string): boolean {
  if (wanted === 'words') return t.texts > 0
  if (wanted === 'one') return t.pictures <= 1
  if (wanted === 'few') return t.pictures > 1 && t.pictures < 5
  return wanted === '' || t.pictures >= 5
}

/** Whether a template is one of those looked for. */
export function fitsWish(t: TemplateFacts, wish: Wish): boolean {
  const frame = useProject.getState().document.frame
  const aspect = (frame?.width ?? 16) / (frame?.height ?? 9)
  return (
    (!wish.kind || t.kind === wish.kind) &&
    fitsPictures(t, wish.pictures) &&
    (!wish.mood || t.moods.includes(wish.mood)) &&
    (!wish.length || t.length <= SHORT_S === (wish.length === 'short')) &&
    (!wish.shaped || t.frames.some((f) => Math.abs(f / aspect - 1) < 0.01)) &&
    (!wish.liked || t.favourite) &&
    (!wish.own || t.kept !== '')
  )
}

/** Ways to look for templates, besides by word. */
export function Wishes({ wanted, onSet }: { wanted: Wish; onSet: (partial: Partial<Wish>) => void }) {
  const select = (label: string, key: 'kind' | 'pictures' | 'mood' | 'length', choices: readonly (readonly [string, string])[]) => (
    <Select label={label} size="small" value={wanted[key]} choices={choices} onSet={(v) => onSet({ [key]: v })} />
  )
  return (
    <>
      {select('Kind', 'kind', KINDS)}
      {select('Pictures', 'pictures', PICTURES)}
      {select('Mood', 'mood', MOODS)}
      {select('Length', 'length', LENGTHS)}
      <Tick label="Made for this frame" value={wanted.shaped} onSet={(shaped) => onSet({ shaped })} />
      <Tick label="Favourites" value={wanted.liked} onSet={(liked) => onSet({ liked })} />
      <Tick label="My own" value={wanted.own} onSet={(own) => onSet({ own })} />
    </>
  )
}
