import { X } from 'lucide-react'
import { useEffect } from 'react'
import { create } from 'zustand'

type Notice = { id: number; text: string; kind: 'news' | 'fault'; action?: { label: string; run: () => void } }

const useNotices = create<{ notices: Notice[] }>()(() => ({ notices: [] }))
let count = 0

/** A short notice at the foot of the window; faults stay until closed. */
export function say(text: string, kind: Notice['kind'] = 'news', action?: Notice['action']): void {
  count += 1
  const notice: Notice = { id: count, text, kind, action }
  useNotices.setState((s) => ({ notices: [...s.notices.filter((n) => n.text !== text), notice].slice(-3) }))
}

const close = (id: number) => useNotices.setState((s) => ({ notices: s.notices.filter((n) => n.id !== id) }))

function One({ notice }: { notice: Notice }) {
  useEffect(() => {
    if (notice.kind === 'fault') return
    const timer = setTimeout(() => close(notice.id), notice.action ? 12_000 : 5_000)
    return () => clearTimeout(timer)
  }, [notice])
  return (
    <div className={`flex items-center gap-4 rounded-lg px-4 py-2.5 text-on-ink shadow-lg ${notice.kind === 'fault' ? 'bg-rowan' : 'bg-ink'}`}>
      <span className="max-w-xl">{notice.text}</span>
      {notice.action && (
        <button
          type="button"
          className="font-semibold underline underline-offset-2"
          onClick={() => {
            notice.action?.run()
            close(notice.id)
          }}
        >
          {notice.action.label}
        </button>
      )}
      <button type="button" aria-label="Close this notice" onClick={() => close(notice.id)}>
        <X size={15} />
      </button>
    </div>
  )
}

export function Notices() {
  const notices = useNotices((s) => s.notices)
  return (
    <div role="status" aria-live="polite" className="pointer-events-none fixed inset-x-0 bottom-5 z-50 flex flex-col items-center gap-2 [&>*]:pointer-events-auto">
      {notices.map((n) => (
        <One key={n.id} notice={n} />
      ))}
    </div>
  )
}
