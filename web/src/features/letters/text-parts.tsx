import { Bold, Brush, CornerUpRight, Italic, PenLine, Type, Underline } from 'lucide-react'
import type { ReactNode } from 'react'
import type { EditOf, LayerRef, TextLayer } from '@/api/client'
import { useLinks } from '@/features/links'
import { Parameters, useNumbers } from '@/features/parameters'
import { useApplied } from '@/project/applied'
import { catalogue } from '@/project/catalogue'
import type { PartProps } from '@/project/chosen'
import { common, commonFields, type Values } from '@/project/common'
import { edit } from '@/project/connection'
import { openDialog } from '@/project/dialogs'
import { useProject } from '@/project/project'
import { tryEdits, useSession } from '@/project/session'
import { Button, IconButton } from '@/ui/button'
import { ColourField } from '@/ui/colour'
import { Menu } from '@/ui/menu'
import { Part, Source } from '@/ui/part'
import { useTyped } from './typed'
import { beginWriting, useLetters } from './writing'

type Styled = 'setting' | 'ink' | 'panel' | 'shadow'

/** What texts say and how they look. */
export const TextParts = ({ chosen: { textRefs, texts } }: PartProps & { onClose?: () => void }) => (
  <>
    <WordsPart refs={textRefs} texts={texts} />
    <StylePart refs={textRefs} texts={texts} />
    <StyledPart part="setting" refs={textRefs} texts={texts} />
    <StyledPart part="ink" refs={textRefs} texts={texts} />
    <StyledPart part="panel" refs={textRefs} texts={texts} />
    <StyledPart part="shadow" refs={textRefs} texts={texts} />
  </>
)

type Props = { refs: LayerRef[]; texts: TextLayer[] }

/** The words; written on the picture they are the same. */
const WordsPart = ({ refs, texts }: Props) => (
  <Part name="text" title="Text">
    {refs.length === 1 && refs[0] ? <Words key={refs[0].layer} text={refs[0]} /> : <p className="text-[12px] text-soft">{texts.length} texts. What you change below changes in all of them.</p>}
    <ChosenLetters refs={refs} />
  </Part>
)

function Words({ text }: { text: LayerRef }) {
  const { value, type, keep } = useTyped(text)
  const written = useSession((s) => s.tried?.find((e): e is EditOf<'set_text'> => e.edit === 'set_text')?.text)
  const shown = written ?? value
  return (
    <>
      <textarea
        aria-label="The text"
        value={shown}
        rows={Math.min(Math.max(shown.split('\n').length, 2), 6)}
        dir="auto"
        onChange={(e) => type(e.target.value)}
        onBlur={() => void keep()}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Escape') e.currentTarget.blur()
        }}
        className="w-full resize-y rounded-lg border hairline bg-card px-2 py-1.5 leading-snug"
      />
      <div className="mt-1 flex flex-wrap items-center gap-1.5">
        <Button size="small" onClick={() => beginWriting(text)}>
          <PenLine size={13} /> On the picture
        </Button>
        <Menu
          trigger={<Button size="small">Detail…</Button>}
          entries={[
            ...catalogue().text_details.map((d) => ({ label: `{${d.id}} – ${d.label}`, run: () => type(`${shown}{${d.id}}`) })),
            'rule' as const,
            { label: 'Project details…', run: () => openDialog('details') },
          ]}
        />
      </div>
      <Faults first={text} />
    </>
  )
}

/** What is odd about the text, once. */
function Faults({ first }: { first: LayerRef | undefined }) {
  const finding = useProject((s) => (first ? s.findings[first.scene]?.texts.find((t) => t.layer === first.layer) : undefined))
  if (!finding) return null
  const said = [
    ...finding.unknown.map((name) => `There is no detail {${name}}.`),
    ...finding.empty.map((name) => `{${name}} is empty.`),
    ...(finding.missing ? [`No face has “${[...finding.missing].slice(0, 8).join('')}”.`] : []),
    ...(finding.stood_in ? [`“${[...finding.stood_in].slice(0, 8).join('')}” is shown in another face: this one has no such letters.`] : []),
    ...(finding.overflows ? ['The text does not fit its box.'] : []),
  ]
  return (
    <ul aria-label="About this text" className="mt-1.5 text-[12px] text-soft">
      {said.map((s) => (
        <li key={s}>{s}</li>
      ))}
    </ul>
  )
}

/** How the letters that are chosen on the picture look, apart from the rest. */
function ChosenLetters({ refs }: { refs: LayerRef[] }) {
  const writing = useSession((s) => s.writing)
  const { from, to } = useLetters()
  const [text] = refs
  if (!writing || !text || from === to) return null
  const set = (partial: Partial<EditOf<'set_letters'>>) => void edit({ edit: 'set_letters', text, start: Math.min(from, to), stop: Math.max(from, to), ...partial })
  return (
    <fieldset className="mt-2 min-w-0 rounded-lg border hairline p-2">
      <legend className="px-1 text-[12px] text-soft">The chosen letters alone</legend>
      <div className="flex items-center gap-1">
        <IconButton size="small" label="Bold" onClick={() => set({ weight: 700 })}>
          <Bold size={14} />
        </IconButton>
        <IconButton size="small" label="Italic" onClick={() => set({ italic: true })}>
          <Italic size={14} />
        </IconButton>
        <IconButton size="small" label="Underlined" onClick={() => set({ underline: true })}>
          <Underline size={14} />
        </IconButton>
        <Button size="small" onClick={() => set({ size: 1.4 })}>
          Larger
        </Button>
        <Button size="small" onClick={() => set({ size: 0.7 })}>
          Smaller
        </Button>
      </div>
      <ColourField label="Colour of the letters" value="#e2a94a" onTry={() => undefined} onSet={(colour) => set({ colour })} />
      <div className="mt-1 flex items-center gap-3">
        <Button kind="link" onClick={() => openDialog('faces')}>
          Face…
        </Button>
        <Button kind="link" onClick={() => set({ weight: null, italic: null, underline: false, size: null, colour: null, family: null })}>
          As the rest
        </Button>
      </div>
    </fieldset>
  )
}

function StylePart({ refs, texts }: Props) {
  const own = common(texts.map((t) => t.style ?? null))
  const styles = useProject((s) => s.document.styles)
  const name = own ? styles?.[own]?.name : undefined
  return (
    <Part name="style" title="Text style" source={own ? <span className="text-soft">linked</span> : undefined}>
      <div className="grid grid-cols-2 gap-1.5">
        <Button className="min-w-0" onClick={() => openDialog('styles')}>
          <Brush size={14} className="shrink-0" /> <span className="truncate">{name ?? 'Styles…'}</span>
        </Button>
        <Button onClick={() => openDialog('faces')}>
          <Type size={14} /> Face…
        </Button>
        <Button title="Put what is right here on the texts of other scenes" onClick={() => openDialog('carry')}>
          <CornerUpRight size={14} /> Carry to…
        </Button>
      </div>
      {own && (
        <p className="mt-1.5 text-[12px] text-soft">
          <Button kind="link" onClick={() => void edit({ edit: 'use_style', style: own, texts: refs, linked: false })}>
            Unlink
          </Button>{' '}
          · what you change below becomes the text’s own.{' '}
          <Button kind="link" onClick={() => refs[0] && void edit({ edit: 'put_into_style', id: own, text: refs[0], texts: refs })}>
            Put it into the style
          </Button>
        </p>
      )}
    </Part>
  )
}

/** A part that texts have from their style, or of their own. */
function StyledPart({ part, refs, texts, children }: Props & { part: Styled; children?: ReactNode }) {
  const applied = useApplied()
  const numbers = useNumbers(refs, part)
  const links = useLinks(refs, part)
  const styles = useProject((s) => s.document.styles)
  const spec = [...catalogue().text_parts, ...catalogue().look_parts].find((p) => p.id === part)
  const own = common(texts.map((t) => t.style ?? null))
  const made = (values: Values | null) => ({ edit: 'set_layers', layers: refs, [part]: values }) as const
  return (
    <Part
      name={part}
      title={spec?.label ?? ''}
      source={<Source own={texts.some((t) => t[part] != null)} look={own ? styles?.[own]?.name : undefined} word="style" otherwise="plain" onBack={() => void edit(made(null))} />}
    >
      {children}
      <Parameters
        parameters={spec?.parameters ?? []}
        values={commonFields(refs.map((r) => (applied(r.scene, r.layer)[part] ?? {}) as Values))}
        numbers={numbers}
        links={links}
        onTry={(p) => tryEdits([made(p)])}
        onSet={(p) => void edit(made(p))}
        onGiveUp={() => tryEdits(null)}
      />
    </Part>
  )
}
