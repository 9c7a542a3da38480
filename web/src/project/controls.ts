import { catalogue } from './catalogue'

/** How a number that no parameter model declares is shown, and what it may be: props for a NumberField. */
export function control(id: string) {
  const found = catalogue().controls.find((c) => c.id === id)
  if (!found) throw new Error(`There is no control ${id}.`)
  return {
    label: found.label,
    help: found.help || undefined,
    minimum: found.minimum ?? 0,
    maximum: found.maximum ?? 1,
    step: found.step ?? 0.01,
    usual: found.usual,
    unit: found.unit,
    scale: found.scale,
    whole: found.whole,
  }
}
