import type { ButtonHTMLAttributes, ReactNode } from 'react'

const KINDS = {
  plain: 'border hairline bg-card hover:bg-deep text-ink',
  strong: 'bg-ink text-on-ink hover:opacity-90 border border-transparent',
  quiet: 'border border-transparent hover:bg-deep text-ink',
  dark: 'border border-transparent text-chalk hover:bg-white/10',
  link: 'text-tarn hover:underline underline-offset-2 !p-0 !h-auto',
  fault: 'border border-rowan text-rowan hover:bg-deep',
} as const

type Props = ButtonHTMLAttributes<HTMLButtonElement> & { kind?: keyof typeof KINDS; children: ReactNode }

export function Button({ kind = 'plain', className = '', children, ...rest }: Props) {
  return (
    <button type="button" className={`inline-flex h-8 items-center justify-center gap-1.5 whitespace-nowrap rounded-lg px-3 font-medium disabled:opacity-45 ${KINDS[kind]} ${className}`} {...rest}>
      {children}
    </button>
  )
}

export function IconButton({ label, kind = 'quiet', className = '', ...rest }: Props & { label: string }) {
  return <Button kind={kind} aria-label={label} title={label} className={`!w-8 !px-0 ${className}`} {...rest} />
}
