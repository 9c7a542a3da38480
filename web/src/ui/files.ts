import { say } from './notices'

type Asked = { accept?: string; many?: boolean; folder?: boolean }

const LATE = 'The browser lets a page ask for files only just after a key or a press, and this took longer. Do it once more.'

/** Asks for files of this computer; none if that is given up. It has to come from a press or a key. */
export function askForFiles({ accept = '', many = true, folder = false }: Asked): Promise<File[]> {
  if (navigator.userActivation?.isActive === false) {
    // The browser would open nothing, and tell nobody.
    say(LATE, 'fault')
    return Promise.resolve([])
  }
  const input = document.createElement('input')
  Object.assign(input, { type: 'file', accept, multiple: many, webkitdirectory: folder, hidden: true })
  document.body.append(input)
  return new Promise((done) => {
    const end = (files: File[]) => {
      input.remove()
      done(files)
    }
    input.addEventListener('change', () => end([...(input.files ?? [])]))
    input.addEventListener('cancel', () => end([]))
    input.click()
  })
}
