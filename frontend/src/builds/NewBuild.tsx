import Button from '@mui/material/Button'
import TextField from '@mui/material/TextField'
import { useEffect, useRef, useState, type FormEvent, type ReactNode } from 'react'
import { api } from '../api/client'
import type { BuildState } from '../api/types'
import { Interview, type Answers } from './Interview'
import './builds.css'

interface Props {
  opened: (made: Promise<BuildState>, station: string) => Promise<void>
  tell: (trouble: string) => void
  children: ReactNode
}

const WORDS = [
  ['vehicle', 'Vehicle'],
  ['engine', 'Engine'],
  ['gearbox', 'Gearbox'],
] as const

/** A new build: its name, what goes into what, and what is known of the way it is laid out. Only the name is needed; all of it can be changed later. */
export function NewBuild({ opened, tell, children }: Props) {
  const [name, setName] = useState('')
  const [said, say] = useState({ vehicle: '', engine: '', gearbox: '' })
  const [answers, answer] = useState<Answers>({ layout: '', options: {} })
  const first = useRef<HTMLInputElement>(null)
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!event.altKey || event.code !== 'KeyN') return
      event.preventDefault()
      first.current?.focus()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  const create = (event: FormEvent) => {
    event.preventDefault()
    if (name.trim() === '') tell('Give the build a name first.')
    else void opened(api.create({ name: name.trim(), ...said, ...answers, demo: '' }), 'survey')
  }
  return (
    <form onSubmit={create} className="newbuild">
      <h2>
        New build <kbd>Alt N</kbd>
      </h2>
      <div className="newwords">
        <TextField label="Name" inputRef={first} value={name} onChange={(e) => setName(e.target.value)} slotProps={{ htmlInput: { maxLength: 200 } }} />
        {WORDS.map(([field, label]) => (
          <TextField key={field} label={label} value={said[field]} onChange={(e) => say({ ...said, [field]: e.target.value })} />
        ))}
      </div>
      <Interview answers={answers} answer={answer} />
      <div className="actions">
        <Button variant="contained" type="submit">
          Start
        </Button>
        {children}
      </div>
    </form>
  )
}
