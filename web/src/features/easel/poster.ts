import type { Command } from '@/project/command'
import { edit } from '@/project/connection'
import { now } from '@/project/session'
import { say } from '@/ui/notices'

/** The frame at the playhead stands for the film. */
export const POSTER: Command = {
  id: 'poster',
  label: 'Make this frame the film’s poster',
  words: 'thumbnail cover still picture project',
  at: 'desk',
  possible: () => now().timeline.spans.length > 0,
  run: () => void edit({ edit: 'set_poster', at: Math.round(now().playhead) }).then((done) => done && say('This frame stands for the film now, where projects and exports are listed.')),
}
