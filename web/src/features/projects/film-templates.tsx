import { useQuery } from '@tanstack/react-query'
import { client, settled, type TemplateFacts } from '@/api/client'
import { Painted } from '@/ui/painted'

/** Whole films of the library, each as it looks while it is empty; or none. */
export function FilmTemplates({ chosen, onChoose }: { chosen: string | null; onChoose: (key: string | null) => void }) {
  const { data } = useQuery({ queryKey: ['templates'], queryFn: () => settled(client.GET('/api/templates')) })
  const films = (data?.templates ?? []).filter((t) => t.kind === 'film')
  const about = films.find((t) => t.key === chosen)?.about
  return (
    <fieldset>
      <legend className="mb-1.5 font-medium">Begin with a template</legend>
      <div className="flex gap-2 overflow-x-auto p-0.5 pb-2">
        <Tile name="None" on={chosen === null} onChoose={() => onChoose(null)} />
        {films.map((t) => (
          <Tile key={t.key} name={t.name} template={t} on={chosen === t.key} onChoose={() => onChoose(t.key)} />
        ))}
      </div>
      <p className="text-[12.5px] text-soft">{about ?? 'A film made by hand: every picture a scene of its own.'}</p>
    </fieldset>
  )
}

function Tile({ name, template, on, onChoose }: { name: string; template?: TemplateFacts; on: boolean; onChoose: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      title={template?.about}
      onClick={onChoose}
      className={`w-32 shrink-0 rounded-lg border p-1 text-left ${on ? 'border-ink bg-card ring-2 ring-brass' : 'hairline'}`}
    >
      <span className="grid aspect-video place-items-center overflow-hidden rounded bg-deep text-[12px] text-soft">
        {template ? <Painted src={`/api/templates/${template.key}/poster`} alt="" className="h-full w-full object-cover" /> : 'by hand'}
      </span>
      <span className="mt-0.5 block truncate text-[12.5px]">{name}</span>
    </button>
  )
}
