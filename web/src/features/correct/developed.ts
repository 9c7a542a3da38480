import { useEffect, useState } from 'react'
import { address, type Edit, painted, releaseLater } from '@/api/client'
import { pictureMark, useProject } from '@/project/project'

/** A picture painted with edits tried; while one is on its way, only the newest wish waits. */
export function useDeveloped(media: string, edits: Edit[], uncropped: boolean): { url: string | null; fault: string | null } {
  const project = useProject((s) => s.id)
  const mark = useProject((s) => pictureMark(s.document.media?.[media]))
  const [shown, setShown] = useState<{ url: string | null; fault: string | null; media: string; uncropped: boolean }>({ url: null, fault: null, media, uncropped })
  const key = JSON.stringify([edits, uncropped, mark])
  useEffect(() => {
    const control = new AbortController()
    const timer = setTimeout(async () => {
      try {
        const [tried] = JSON.parse(key) as [Edit[]]
        const url = await painted(address.developed(project, media), { edits: tried, width: 1100, uncropped }, control.signal)
        if (url === null) return
        if (control.signal.aborted) URL.revokeObjectURL(url)
        else
          setShown((before) => {
            if (before.url) releaseLater(before.url)
            return { url, fault: null, media, uncropped }
          })
      } catch (error) {
        setShown((before) => ({ ...before, fault: (error as Error).message }))
      }
    }, 20)
    return () => {
      clearTimeout(timer)
      control.abort()
    }
  }, [project, media, key, uncropped])
  return shown.media === media && shown.uncropped === uncropped ? shown : { url: null, fault: shown.fault }
}
