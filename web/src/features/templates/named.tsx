import { useState } from 'react'
import { Row } from '@/ui/row'

/** A text that is kept when its field is left. */
export function Named({ label, value, onSet, long }: { label: string; value: string; onSet: (text: string) => void; long?: boolean }) {
  const [typed, setTyped] = useState<string | null>(null)
  const leave = () => {
    const wanted = typed?.trim()
    setTyped(null)
    if (wanted !== undefined && wanted !== value && (wanted || long)) onSet(wanted)
  }
  return (
    <Row label={label}>
      <input
        aria-label={label === 'Dial' ? `Name of the dial ${value}` : label}
        value={typed ?? value}
        maxLength={label === 'Name' || label === 'Dial' ? 100 : 2000}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={leave}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur()
          if (e.key === 'Escape') setTyped(null)
        }}
        className="h-7 min-w-0 flex-1 rounded-lg border hairline bg-card px-2"
      />
    </Row>
  )
}
