import { LayoutTemplate } from 'lucide-react'
import type { PartProps } from '@/project/chosen'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { Button } from '@/ui/button'
import { Part, PartAction } from '@/ui/part'
import { MAKE, TREAT_SCENES } from './commands'
import { Dials } from './dials'
import { Making } from './making'
import { Offered } from './renewal'
import { Zones } from './zones'

/** What the chosen scenes are made by: its zones and its dials; or the way to a template. */
export function TemplatePart({ chosen: { ids, scenes, scene } }: PartProps) {
  const templates = useProject((s) => s.document.templates)
  const used = scenes.map((s) => s.template?.template)
  const template = used[0] && used.every((u) => u === used[0]) ? templates?.[used[0]] : undefined
  const free = () => void edit({ edit: 'free_scenes', scenes: ids })
  return (
    <Part name="template" title="Template" source={used.some(Boolean) && <PartAction onPress={free}>free from it</PartAction>}>
      {template && used[0] && !template.origin ? (
        <Making id={used[0]} template={template} scene={scene}>
          <Dials ids={ids} template={template} />
        </Making>
      ) : template ? (
        <>
          <Offered />
          <p className="mb-2 text-[12.5px] text-soft">
            {template.name}. {ids.length === 1 ? 'Drag pictures from zone to zone, or press one to fill it.' : ''}
          </p>
          {ids.length === 1 && <Zones scene={scene} template={template} />}
        </>
      ) : (
        <p className="mb-2 text-[12.5px] text-soft">
          {used.some(Boolean) ? 'The chosen scenes are made by different templates.' : 'Made by hand. A template sets pictures and words in motion at once.'}
        </p>
      )}
      {template?.origin && <Dials ids={ids} template={template} />}
      {(!template || template.origin) && (
        <Button size="small" className="mt-1 w-full" onClick={TREAT_SCENES.run}>
          <LayoutTemplate size={14} /> {template ? 'Another template…' : 'Treat with…'}
        </Button>
      )}
      {!template && (
        <Button size="small" className="mt-1.5 w-full" onClick={MAKE.run}>
          Make a template of {ids.length === 1 ? 'it' : 'them'}
        </Button>
      )}
    </Part>
  )
}
