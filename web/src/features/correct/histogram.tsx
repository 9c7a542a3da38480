import { useEffect, useState } from 'react'
import { client, type Edit, settled } from '@/api/client'
import { pictureMark, useProject } from '@/project/project'

type Found = { channels: number[][]; dark: number; light: number }

const COLOURS = ['#e58a72', '#9dbb8f', '#77b9cf']
const NAMES = ['red', 'green', 'blue']
const [WIDE, HIGH] = [256, 56]
/** Less of a picture than this is not worth a word. */
const LEAST_CLIPPED = 0.001

const percent = (share: number) => `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`

/** How the levels of a picture are spread, with what is being tried; and how much of it is clipped at black and at white. */
export function Histogram({ media, edits }: { media: string; edits: Edit[] }) {
  const project = useProject((s) => s.id)
  const mark = useProject((s) => pictureMark(s.document.media?.[media]))
  const [found, setFound] = useState<Found | null>(null)
  const key = JSON.stringify([edits, mark])
  useEffect(() => {
    let over = false
    const timer = setTimeout(() => {
      const [tried] = JSON.parse(key) as [Edit[]]
      settled(client.POST('/api/projects/{project}/pictures/{media}/histogram', { params: { path: { project, media } }, body: { edits: tried } })).then(
        (answer) => !over && setFound(answer),
        // The picture itself says what is wrong.
        () => !over && setFound(null),
      )
    }, 80)
    return () => {
      over = true
      clearTimeout(timer)
    }
  }, [project, media, key])
  if (!found) return <div className="mb-2 h-[76px] rounded-lg bg-pit" />
  const clipped = (share: number, where: string) => (
    <span className={share >= LEAST_CLIPPED ? 'font-semibold text-rowan' : 'text-soft'} title={`Share of the picture in which a colour is clipped at ${where}: there is nothing left to bring back`}>
      {share >= LEAST_CLIPPED ? `${percent(share)} clipped ${where}` : `no clipped ${where}`}
    </span>
  )
  return (
    <figure className="mb-2">
      <svg
        role="img"
        aria-label={`Histogram: ${percent(found.dark)} clipped black, ${percent(found.light)} clipped white`}
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        preserveAspectRatio="none"
        className="block h-14 w-full rounded-t-lg bg-pit"
      >
        {found.channels.map((heights, i) => (
          <path key={NAMES[i]} d={outline(heights)} fill={COLOURS[i]} fillOpacity={0.42} stroke={COLOURS[i]} strokeWidth={0.8} className="mix-blend-screen" />
        ))}
      </svg>
      <figcaption className="flex justify-between rounded-b-lg bg-deep px-2 text-[11.5px]">
        {clipped(found.dark, 'black')}
        {clipped(found.light, 'white')}
      </figcaption>
    </figure>
  )
}

/** The outline of bars as high as these shares, from the left edge to the right. */
function outline(heights: number[]): string {
  const step = WIDE / Math.max(1, heights.length - 1)
  return `M0 ${HIGH} ${heights.map((h, i) => `L${(i * step).toFixed(1)} ${((1 - h) * HIGH).toFixed(1)}`).join(' ')} L${WIDE} ${HIGH} Z`
}
