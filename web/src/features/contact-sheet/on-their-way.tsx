import { TriangleAlert } from 'lucide-react'
import { Button } from '@/ui/button'
import { forgetRefused, type Sending, sendRefusedAgain } from './sending'

/** Files that did not go in, and why. */
export function Refusals({ files }: { files: Sending[] }) {
  if (!files.length) return null
  return (
    <div role="alert" className="max-h-44 overflow-y-auto border-b hairline bg-deep px-5 py-2.5">
      <div className="flex items-center justify-between">
        <p className="flex items-center gap-2 font-medium text-rowan">
          <TriangleAlert size={15} /> {files.length} file{files.length === 1 ? '' : 's'} did not go in.
        </p>
        <span className="flex gap-3">
          <Button kind="link" onClick={sendRefusedAgain}>
            Try again
          </Button>
          <Button kind="link" onClick={forgetRefused}>
            Close the list
          </Button>
        </span>
      </div>
      <ul className="mt-1 space-y-0.5">
        {files.map((f) => (
          <li key={f.id}>
            <span className="font-medium">{f.name}</span> <span className="text-soft">{f.message}</span>
          </li>
        ))}
      </ul>
    </div>
  )
}

/** A file that is being sent. */
export function Coming({ file, asList }: { file: Sending; asList: boolean }) {
  return (
    <li className={asList ? 'flex items-center gap-4 px-2 py-1' : 'rounded-xl p-2'}>
      <span className={`grid place-items-center overflow-hidden ${asList ? 'h-10 w-16' : 'h-[118px]'}`}>
        {file.picture ? <img src={file.picture} alt="" className={`max-w-full object-contain opacity-60 ${asList ? 'max-h-10' : 'max-h-[118px]'}`} /> : <span className="text-soft">…</span>}
      </span>
      <span className="mt-2 block flex-1 truncate text-soft" title={file.message || undefined}>
        {file.name}
      </span>
      {file.message && <span className="block text-[12px] text-rowan">{file.message}</span>}
      <span
        role="progressbar"
        aria-label={`Sending ${file.name}`}
        aria-valuenow={Math.round(file.share * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
        className="mt-1 block h-1 w-full overflow-hidden rounded-full bg-rule"
      >
        <span className="block h-full bg-brass" style={{ width: `${file.share * 100}%` }} />
      </span>
    </li>
  )
}

/** Pictures whose files are gone from the server's disk, by name. */
export function MissingFiles({ names }: { names: string[] }) {
  if (!names.length) return null
  return (
    <p role="alert" className="flex items-center gap-2 border-b hairline bg-deep px-5 py-2 text-rowan">
      <TriangleAlert size={15} /> {names.length === 1 ? `The file of “${names[0]}” is missing` : `${names.length} files are missing`} on this machine’s disk. Choose the picture and replace its file;
      all else is kept.
    </p>
  )
}
