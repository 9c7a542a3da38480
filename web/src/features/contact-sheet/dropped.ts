const PICTURE = /\.(jpe?g|png|webp|tiff?|hei[cf]|avif)$/i

async function filesOf(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile) return [await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject))]
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  const found: File[] = []
  for (;;) {
    // A folder is read in portions; an empty one is the last.
    const portion = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject))
    if (!portion.length) break
    for (const inner of portion) found.push(...(await filesOf(inner)))
  }
  return found.filter((f) => PICTURE.test(f.name))
}

/** Every file that was dropped, folders opened; in folders only pictures count, and names give the order. */
export async function droppedFiles(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].map((i) => i.webkitGetAsEntry?.()).filter((e): e is FileSystemEntry => Boolean(e))
  if (!entries.length) return [...transfer.files]
  const found: File[] = []
  for (const entry of entries) {
    const inside = await filesOf(entry)
    found.push(...(entry.isDirectory ? inside.sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true })) : inside))
  }
  return found
}
