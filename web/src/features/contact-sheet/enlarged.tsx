import { ChevronLeft, ChevronRight } from 'lucide-react'
import { useEffect } from 'react'
import { address } from '@/api/client'
import { neighbour } from '@/interaction/choosing'
import { useProject } from '@/project/store'
import { IconButton } from '@/ui/button'
import { Dialog } from '@/ui/dialog'

/** One picture large; the arrows go on to its neighbours. */
export function Enlarged({ project, order, id, onChange }: { project: string; order: string[]; id: string; onChange: (id: string | null) => void }) {
  const media = useProject((s) => s.document.media?.[id])
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      // The key that opened this arrives here, too.
      if (event.defaultPrevented) return
      const way = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
      const to = way ? neighbour(order, id, way) : undefined
      if (to) onChange(to)
      else if (event.key === ' ') {
        event.preventDefault()
        onChange(null)
      }
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [order, id, onChange])
  if (!media) return null
  return (
    <Dialog open onOpenChange={(open) => !open && onChange(null)} wide title={media.name} description={`${media.width} × ${media.height} pixels${media.captured ? ` · ${media.captured.replace('T', ' ').slice(0, 16)}` : ''}${media.description ? ` · ${media.description}` : ''}`}>
      <div className="flex items-center gap-3">
        <IconButton label="The picture before" onClick={() => onChange(neighbour(order, id, -1) ?? id)}>
          <ChevronLeft size={20} />
        </IconButton>
        <img key={id} src={address.large(project, id, 1400)} alt={media.name} className="mx-auto max-h-[70vh] min-h-0 min-w-0 max-w-[calc(100%-90px)] object-contain" />
        <IconButton label="The next picture" onClick={() => onChange(neighbour(order, id, 1) ?? id)}>
          <ChevronRight size={20} />
        </IconButton>
      </div>
    </Dialog>
  )
}
