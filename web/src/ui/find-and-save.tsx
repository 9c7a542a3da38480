import { useState } from 'react'
import { Button } from './button'

type Props = {
  /** What is found and saved: “look”. */
  thing: string
  words: string
  onWords: (words: string) => void
  placeholder: string
  /** Saves under a name; true once it is saved. */
  onSave: (name: string) => Promise<boolean>
}

/** Over the entries of a picker: they are found by word, and what stands there now is saved as one more. */
export function FindAndSave({ thing, words, onWords, placeholder, onSave }: Props) {
  const [name, setName] = useState('')
  const save = async () => {
    if (await onSave(name.trim())) setName('')
  }
  return (
    <div className="mb-3 flex items-center gap-3">
      <input aria-label={`Find a ${thing}`} placeholder="Find by word" value={words} onChange={(e) => onWords(e.target.value)} className="h-8 w-48 rounded-lg border hairline bg-card px-2.5" />
      <span className="flex-1" />
      <input
        aria-label={`Name of a new ${thing}`}
        placeholder={placeholder}
        value={name}
        maxLength={100}
        onChange={(e) => setName(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && name.trim() && void save()}
        className="h-8 w-56 rounded-lg border hairline bg-card px-2.5"
      />
      <Button disabled={!name.trim()} onClick={() => void save()}>
        Save the {thing.split(' ').at(-1)}
      </Button>
    </div>
  )
}
