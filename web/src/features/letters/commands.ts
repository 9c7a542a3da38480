import { catalogue } from '@/project/catalogue'
import { type Command, chosenScene, firstChosen, someScene } from '@/project/command'
import { edit } from '@/project/connection'
import { openDialog } from '@/project/dialogs'
import { layersOf, newId } from '@/project/project'
import { now } from '@/project/session'
import { beginWriting } from './writing'

export { ADD_TEXT } from './add-text'

const desk = 'desk' as const

/** The chosen layers that are texts. */
export const chosenTexts = () => now().chosenLayers.filter((r) => layersOf(now().document, r.scene)[r.layer]?.kind === 'text')
const someText = () => chosenTexts().length > 0

export const CHOOSE_TITLE: Command = {
  id: 'dialog-titles',
  label: 'Choose a title setting…',
  short: 'Title setting…',
  words: 'text animated opening lower line',
  at: desk,
  possible: someScene,
  run: () => openDialog('titles'),
}

const dialog = (id: 'styles' | 'faces', label: string, words: string): Command => ({ id: `dialog-${id}`, label, words, at: desk, possible: someText, run: () => openDialog(id) })

const setting = (id: string, label: string, partial: Record<string, unknown>): Command => ({
  id: `letters-${id}`,
  label,
  words: 'text',
  at: desk,
  possible: someText,
  run: () => void edit({ edit: 'set_layers', layers: chosenTexts(), setting: partial }),
})

/** Texts: put on, written, how they are set; their styles by name. */
export function letterCommands(): Command[] {
  const styles = [...Object.entries(now().document.styles ?? {}).map(([id, s]) => ({ id, label: s.name })), ...catalogue().text_styles.filter((s) => !now().document.styles?.[s.id])]
  return [
    CHOOSE_TITLE,
    ...catalogue().titles.map(
      (t): Command => ({
        id: `title-${t.id}`,
        label: `Add a title: ${t.label}`,
        words: t.words,
        at: desk,
        possible: someScene,
        run: () => void edit({ edit: 'add_title', scene: chosenScene(), id: newId(), title: t.id }),
      }),
    ),
    {
      id: 'write',
      label: 'Write the chosen text on the picture',
      words: 'type edit letters',
      at: desk,
      possible: () => firstChosen()?.layer.kind === 'text',
      run: () => {
        const first = firstChosen()
        if (first?.layer.kind === 'text') beginWriting(first.ref)
      },
    },
    dialog('styles', 'Choose a text style…', 'look letters'),
    dialog('faces', 'Choose a face…', 'font family type'),
    ...styles.map(
      (s): Command => ({
        id: `style-${s.id}`,
        label: `Text style: ${s.label}`,
        at: desk,
        possible: someText,
        run: () => void edit({ edit: 'use_style', style: s.id, texts: chosenTexts(), linked: true }),
      }),
    ),
    setting('left', 'Letters: from the left', { across: 'left' }),
    setting('middle', 'Letters: about the middle', { across: 'middle' }),
    setting('right', 'Letters: from the right', { across: 'right' }),
    setting('bold', 'Letters: bold', { weight: 700 }),
    setting('regular', 'Letters: regular', { weight: 400 }),
    setting('italic', 'Letters: italic', { italic: true }),
    setting('upright', 'Letters: upright', { italic: false }),
    setting('capitals', 'Letters: capitals', { case: 'upper' }),
    setting('as-typed', 'Letters: as typed', { case: 'typed' }),
    {
      id: 'dialog-details',
      label: 'Project details…',
      words: 'author place date rights texts braces',
      run: () => openDialog('details'),
    },
  ]
}
