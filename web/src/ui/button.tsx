import type { ButtonHTMLAttributes, ReactNode } from 'react'

const KINDS = {
  plain: 'border hairline bg-card hover:bg-deep text-ink',
  strong: 'bg-ink text-on-ink hover:opacity-90 border border-transparent',
  quiet: 'border border-transparent hover:bg-deep text-ink',
  dark: 'border border-transparent text-chalk hover:bg-white/10',
  link: 'text-tarn hover:underline underline-offset-2 !p-0 !h-auto',
  fault: 'border border-rowan text-rowan hover:bg-deep',
} as const

/** How high buttons and fields are, and how wide one with an icon alone is. */
const SIZES = {
  usual: ['h-8 px-3', 'size-8'],
  small: ['h-7 px-2.5', 'size-7'],
  tiny: ['h-6 px-2', 'size-6'],
  least: ['h-5 px-1.5', 'size-5'],
} as const

export type Size = keyof typeof SIZES
type Props = ButtonHTMLAttributes<HTMLButtonElement> & { kind?: keyof typeof KINDS; size?: Size; children: ReactNode }

const COMMON = 'inline-flex items-center justify-center whitespace-nowrap rounded-lg font-medium disabled:opacity-45'

export function Button({ kind = 'plain', size = 'usual', className = '', children, ...rest }: Props) {
  return (
    <button type="button" className={`${COMMON} gap-1.5 ${kind === 'link' ? '' : SIZES[size][0]} ${KINDS[kind]} ${className}`} {...rest}>
      {children}
    </button>
  )
}

/** A button with an icon alone, under its name. */
export function IconButton({ label, kind = 'quiet', size = 'usual', className = '', children, ...rest }: Props & { label: string }) {
  return (
    <button type="button" aria-label={label} title={label} className={`${COMMON} shrink-0 ${SIZES[size][1]} ${KINDS[kind]} ${className}`} {...rest}>
      {children}
    </button>
  )
}
