import { useEffect, useState } from 'react'
import { client, Refused, settled } from '@/api/client'
import { say } from '@/ui/notices'
import { openProject, passes, tryNow, useKept } from './connection'
import { useProject } from './project'
import { useSession } from './session'

const LOOK_EVERY_MS = 4000

/** Opens a project and keeps it the newest: whether it is open, what stands in the way, and whether the server is there. */
export function useOpened(id: string): { open: boolean; fault: string | null; connected: boolean } {
  const open = useProject((s) => s.id === id && Boolean(s.document))
  const title = useProject((s) => s.document?.title)
  const [fault, setFault] = useState<string | null>(null)
  const [connected, setConnected] = useState(true)

  useEffect(() => {
    setFault(null)
    let again = 0
    const begin = () => {
      if (useProject.getState().id === id) return
      openProject(id).then(
        () => setFault(null),
        (error: Error) => {
          setFault(error.message)
          if (error instanceof Refused && passes(error.status)) again = window.setTimeout(begin, LOOK_EVERY_MS / 2)
        },
      )
    }
    begin()
    return () => clearTimeout(again)
  }, [id])

  useEffect(() => {
    if (open && title) document.title = `${title} · Oak Lens`
    return () => {
      document.title = 'Oak Lens'
    }
  }, [open, title])

  // Another window may have changed the project: take over its newest state.
  useEffect(() => {
    if (!open) return
    const timer = setInterval(async () => {
      const { kept } = useKept.getState()
      const { tried } = useSession.getState()
      const { revision } = useProject.getState()
      if (document.hidden || tried || kept === 'keeping' || kept === 'waiting') return
      try {
        const state = await settled(client.GET('/api/projects/{project}/state', { params: { path: { project: id } } }))
        const now = useProject.getState()
        if (!connected) setConnected(true)
        if (state.revision > revision && now.revision === revision && !useSession.getState().tried) {
          await openProject(id)
          say('Taken over what was changed in another window.')
        }
      } catch (error) {
        if (error instanceof Refused && passes(error.status)) setConnected(false)
      }
    }, LOOK_EVERY_MS)
    return () => clearInterval(timer)
  }, [open, id, connected])

  useEffect(() => {
    window.addEventListener('online', tryNow)
    return () => window.removeEventListener('online', tryNow)
  }, [])

  return { open, fault: open ? null : fault, connected }
}
