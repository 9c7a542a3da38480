export type Step = 'choose' | 'add' | 'adjust' | 'export'

export const STEPS: readonly (readonly [Step, string])[] = [
  ['choose', 'Choose'],
  ['add', 'Add pictures'],
  ['adjust', 'Adjust'],
  ['export', 'Watch and export'],
]

export const stepOf = (name: string | null): Step => STEPS.find(([step]) => step === name)?.[0] ?? 'choose'
