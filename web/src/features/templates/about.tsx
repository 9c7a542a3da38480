import { useQuery } from '@tanstack/react-query'
import { Heart } from 'lucide-react'
import { client, settled, type TemplateFacts } from '@/api/client'
import { IconButton } from '@/ui/button'
import { say } from '@/ui/notices'
import { count, frameName, takes } from './told'
import { like, removeTemplate, takeEverywhere } from './treating'

/** What there is to know of a template of the library, and what can be done with it. */
export function About({ template: t, onChanged }: { template: TemplateFacts; onChanged: () => void }) {
  const done = (work: Promise<unknown>) => void work.then(onChanged, (error: Error) => say(error.message, 'fault'))
  return (
    <section aria-label={t.name} className="min-w-0">
      <h3 className="flex items-center justify-between gap-2 font-heading text-[17px] font-semibold">
        {t.name}
        <IconButton label={t.favourite ? 'No favourite any more' : 'Make it a favourite'} onClick={() => done(like(t.id, !t.favourite))}>
          <Heart size={15} className={t.favourite ? 'fill-current text-rowan' : ''} />
        </IconButton>
      </h3>
      <p className="mb-3 mt-1 text-[13px]">{t.about}</p>
      <ul className="space-y-1 text-[12.5px] text-soft">
        <li>
          {takes(t)}
          {t.kind === 'film' ? '' : ' a scene'}
          {t.scenes > 1 ? `, in ${count(t.scenes, t.kind === 'film' ? 'kind of scene' : 'variation').replace('kind of scenes', 'kinds of scenes')}` : ''}
        </li>
        <li>{count(t.dials, 'dial')} to turn afterwards, under Scene</li>
        {t.repeats && <li>As many scenes as your pictures fill</li>}
        <li>Laid out for {t.frames.map(frameName).join(', ')}</li>
        {t.moods.length > 0 && <li>{t.moods.join(', ')}</li>}
        {t.kept && (
          <li>
            {t.source === 'made' ? 'Made here' : 'From a file'}, version {t.version}
          </li>
        )}
      </ul>
      <Used template={t} onChanged={onChanged} />
      {t.kept && (
        <p className="mt-3 flex flex-wrap gap-x-4 gap-y-1">
          <a className="text-tarn hover:underline" href={`/api/templates/${t.kept}/file`} download>
            Save its file
          </a>
          <button type="button" className="text-rowan hover:underline" onClick={() => done(removeTemplate(t.kept))}>
            Remove from the library
          </button>
        </p>
      )}
    </section>
  )
}

const TOLD = 4

/** Which films use it, and the way to bring this version into those that use an older one. */
function Used({ template, onChanged }: { template: TemplateFacts; onChanged: () => void }) {
  const { data, refetch } = useQuery({ queryKey: ['used-templates'], queryFn: () => settled(client.GET('/api/templates/used')) })
  const used = (data?.used ?? []).filter((u) => u.template === template.id)
  if (!used.length) return null
  const titles = [...new Set(used.map((u) => u.title))]
  const older = new Set(used.filter((u) => u.version !== template.version && u.keeps).map((u) => u.project)).size
  const everywhere = () =>
    void takeEverywhere(template.id).then(
      ({ films }) => {
        say(`Version ${template.version} is in ${count(films, 'film')} now. Each can undo it.`)
        void refetch()
        onChanged()
      },
      (error: Error) => say(error.message, 'fault'),
    )
  return (
    <div className="mt-3 text-[12.5px]">
      <p className="text-soft">
        Used in {titles.slice(0, TOLD).join(', ')}
        {titles.length > TOLD ? ` and ${titles.length - TOLD} more` : ''}
      </p>
      {older > 0 && (
        <button type="button" className="mt-1 text-left text-tarn hover:underline" onClick={everywhere}>
          Take version {template.version} into {count(older, 'film')} that {older === 1 ? 'uses' : 'use'} another
        </button>
      )}
    </div>
  )
}
