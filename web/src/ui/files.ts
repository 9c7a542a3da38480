type Asked = { accept?: string; many?: boolean; folder?: boolean }

/** Asks for files of this computer; none if that is given up. It has to come from a press or a key. */
export function askForFiles({ accept = '', many = true, folder = false }: Asked): Promise<File[]> {
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
