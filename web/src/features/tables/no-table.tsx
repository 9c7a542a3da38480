import { Table2 } from 'lucide-react'
import { type DragEvent, useState } from 'react'
import { Button } from '@/ui/button'
import { askForFiles } from '@/ui/files'

export const TABLES = '.csv,.tsv,.txt,text/csv,text/plain'
const EXAMPLE = [
  ['Title', 'Line below', 'Pictures'],
  ['A night for Ada', 'First light, 3 June', 'dome; mirror'],
  ['A night for Bo', 'First light, 4 June', 'cabin'],
]

/** Cells that were pasted, as a file. */
export const pasted = (text: string): File => new File([text], 'Pasted cells', { type: 'text/csv' })

/** No table yet: a file, or cells pasted from a spreadsheet. */
export function NoTable({ onTake }: { onTake: (file: File) => void }) {
  const [over, setOver] = useState(false)
  const [text, setText] = useState('')
  const drop = (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    const [file] = event.dataTransfer.files
    if (file) onTake(file)
  }
  return (
    <div
      onDragOver={(e) => {
        e.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      className={`mt-5 rounded-2xl border-2 border-dashed p-8 text-center max-sm:p-4 ${over ? 'border-brass bg-card' : 'hairline'}`}
    >
      <Table2 className="mx-auto text-brass" size={38} strokeWidth={1.3} />
      <p className="mt-3 font-heading text-[21px] font-semibold">Drop a CSV file here</p>
      <p className="mt-1 text-soft">Its first row names the columns, every other row makes a film:</p>
      <table className="mx-auto mt-3 border-collapse text-left text-[13px]">
        <tbody>
          {EXAMPLE.map((row, n) => (
            <tr key={row[0]}>
              {row.map((cell) => (
                <td key={cell} className={`border hairline px-3 py-1 ${n ? '' : 'font-semibold'}`}>
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <Button kind="strong" className="mt-4 !h-11 !px-5" onClick={() => void askForFiles({ accept: TABLES, many: false }).then(([file]) => file && onTake(file))}>
        Choose a file
      </Button>
      <label className="mx-auto mt-5 block max-w-xl text-left">
        <span className="text-soft">Or paste cells of a spreadsheet here:</span>
        <textarea rows={4} value={text} onChange={(e) => setText(e.target.value)} className="mt-1 block w-full rounded-lg border hairline bg-card px-3 py-2 font-mono text-[13px]" />
      </label>
      {text.trim() && (
        <Button className="mt-2 !h-11" onClick={() => onTake(pasted(text))}>
          Use these cells
        </Button>
      )}
    </div>
  )
}
