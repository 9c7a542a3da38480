import { useEffect } from 'react'
import { address } from '@/api/client'
import { Screen, stopPlaying, useGeometry, useScreen } from '@/playback/screen'
import { useProject } from '@/project/project'
import { lookAt, useSession } from '@/project/session'
import { later } from '@/ui/later'
import { Lanes } from '@/features/lanes'
import { Live } from './live'
import { Toolbar } from './toolbar'
import { Transport } from './transport'

// Ways of looking that are loaded when somebody looks so.
const Plan = later<{ onClose: () => void }>(() => import('@/features/plan').then((m) => m.Plan))
const Views = later<{ onClose: () => void }>(() => import('./views').then((m) => m.Views))

const lookLive = () => lookAt('live')

const WARM_AFTER_MS = 5000

export function Easel() {
  const project = useProject((s) => s.id)
  const looking = useSession((s) => s.looking)
  const playing = useSession((s) => s.playing)
  const fault = useGeometry((s) => s.fault)

  useEffect(() => {
    const screen = new Screen(project)
    useScreen.setState({ screen })
    // What is seen follows the document, what is tried, what is chosen and the way of looking. An answer changes several of them: the picture
    // is asked for once they all have.
    let soon = false
    const show = () => {
      if (soon) return
      soon = true
      queueMicrotask(() => {
        soon = false
        if (useScreen.getState().screen === screen) screen.refresh(Boolean(useSession.getState().tried))
      })
    }
    const stopProject = useProject.subscribe((now, before) => {
      if (now.revision === before.revision) return
      if (useSession.getState().playing) stopPlaying()
      show()
    })
    const stopSession = useSession.subscribe((now, before) => {
      const same =
        now.tried === before.tried &&
        now.chosenScenes === before.chosenScenes &&
        now.looking === before.looking &&
        now.chequered === before.chequered &&
        now.openLanes === before.openLanes &&
        now.ghosts === before.ghosts &&
        now.lanesShown === before.lanesShown &&
        now.writing === before.writing &&
        (!now.ghosts || now.chosenLayers === before.chosenLayers)
      if (!same) show()
    })
    screen.refresh(false)
    // Text that is pasted where nothing is written becomes a text of the scene.
    const pasted = (event: ClipboardEvent) => {
      const text = event.clipboardData?.getData('text/plain').trim()
      const into = event.target instanceof HTMLElement && event.target.closest('input, textarea, [contenteditable]')
      if (!text || into || event.defaultPrevented || document.querySelector('[role=dialog]') || !useSession.getState().chosenScenes.length) return
      event.preventDefault()
      void import('@/features/letters/adding').then((m) => m.addText(text.slice(0, 9000)))
    }
    document.addEventListener('paste', pasted)
    // The film's level is worked out ahead, so that playing begins at once.
    let idle = 0
    const warm = () => {
      clearTimeout(idle)
      idle = window.setTimeout(() => void fetch(address.sound(project, 0, 1)).catch(() => undefined), WARM_AFTER_MS)
    }
    const hear = useProject.subscribe((now, before) => now.revision !== before.revision && warm())
    warm()
    return () => {
      clearTimeout(idle)
      document.removeEventListener('paste', pasted)
      hear()
      stopProject()
      stopSession()
      useSession.setState({ playing: false })
      screen.close()
      useScreen.setState({ screen: null })
    }
  }, [project])

  return (
    <section aria-label="Easel" id="easel" className="on-dark flex min-h-0 min-w-0 flex-col bg-surround text-chalk">
      <Toolbar />
      {fault && (
        <p role="alert" className="bg-rowan px-4 py-1.5 text-white">
          {fault}
        </p>
      )}
      {looking === 'live' ? (
        <Live playing={playing} />
      ) : (
        <div className="relative flex min-h-0 flex-1 flex-col bg-easel">{looking === 'plan' ? <Plan onClose={lookLive} /> : <Views onClose={lookLive} />}</div>
      )}
      <Transport />
      <Lanes />
    </section>
  )
}
