import { useQuery } from '@tanstack/react-query'
import { client, settled } from '@/api/client'
import { useProject } from '@/project/project'

type Peaks = [number, number][]

/** Peaks of so many even stretches of a sound file between two of its ticks. */
export function useWaveform(sound: string, start: number, end: number, count: number): Peaks {
  const project = useProject((s) => s.id)
  // A song that has just been taken out may still be drawn for a moment.
  const there = useProject((s) => Boolean(s.document.sounds?.[sound]))
  const { data } = useQuery({
    queryKey: ['peaks', project, sound, start, end, count],
    queryFn: () => settled(client.GET('/api/projects/{project}/sounds/{sound}/peaks', { params: { path: { project, sound }, query: { start, end, count } } })),
    enabled: there && end > start && count > 0,
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  })
  return ((data as { peaks: Peaks } | undefined)?.peaks ?? []) as Peaks
}

/** An SVG outline of peaks, `width` along and `height` across, along x or (upright) down y. */
export function waveOutline(peaks: Peaks, width: number, height: number, upright = false): string {
  if (!peaks.length) return ''
  const step = width / peaks.length
  const middle = height / 2
  const at = (along: number, across: number) => (upright ? `${across.toFixed(1)},${along.toFixed(1)}` : `${along.toFixed(1)},${across.toFixed(1)}`)
  const upper = peaks.map(([, high], i) => at((i + 0.5) * step, middle - Math.max((high / 127) * middle, 0.4)))
  const lower = peaks.map(([low], i) => at((i + 0.5) * step, middle - Math.min((low / 127) * middle, -0.4))).reverse()
  return `M${[...upper, ...lower].join('L')}Z`
}
