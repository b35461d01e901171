import Button from '@mui/material/Button'
import TextField from '@mui/material/TextField'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState, type FormEvent } from 'react'
import { useNavigate } from 'react-router'
import { api, queries } from '../api/client'
import type { BuildState } from '../api/types'
import { Brand } from '../shell/TopBar'
import { BuildLine } from './BuildLine'
import { DataPanel } from './DataPanel'
import './builds.css'

/** All builds; a new one, the demo, or one from a file. */
export default function BuildsPage() {
  const builds = useQuery(queries.builds())
  const client = useQueryClient()
  const navigate = useNavigate()
  const [name, setName] = useState('')
  const [vehicle, setVehicle] = useState('')
  const [engine, setEngine] = useState('')
  const [gearbox, setGearbox] = useState('')
  const [trouble, setTrouble] = useState('')
  const opened = async (made: Promise<BuildState>, station: string) => {
    try {
      const build = await made
      await client.invalidateQueries({ queryKey: ['builds'] })
      void navigate(`/build/${build.id}/${station}`)
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : String(error))
    }
  }
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
  const remove = async (id: string, tag: string) => {
    try {
      await api.remove(id, tag)
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : String(error))
    }
    await client.invalidateQueries({ queryKey: ['builds'] })
  }
  const create = (event: FormEvent) => {
    event.preventDefault()
    if (name.trim() === '') setTrouble('Give the build a name first.')
    else void opened(api.create(name.trim(), '', vehicle, engine, gearbox), 'survey')
  }
  const importFile = async (file: File | undefined) => {
    if (file === undefined) return
    setTrouble('')
    // A bundle is a zip file by its first bytes, whatever it is called.
    if ((await file.slice(0, 2).text()) === 'PK') {
      await opened(api.importBundle(file), 'survey')
      return
    }
    let document: Record<string, unknown>
    try {
      document = JSON.parse(await file.text()) as Record<string, unknown>
    } catch {
      setTrouble(`${file.name} is no build: neither a bundle nor a document that can be read as JSON. Nothing was changed.`)
      return
    }
    await opened(api.importBuild(document), 'survey')
  }
  return (
    <main
      className="builds"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault()
        void importFile(e.dataTransfer.files[0])
      }}
    >
      <p className="brand">
        <Brand />
      </p>
      <h1>Builds</h1>
      {trouble && (
        <div className="trouble" role="alert">
          {trouble}
        </div>
      )}
      {builds.isPending && <p role="status">Reading the builds</p>}
      {builds.isError && <p role="alert">{builds.error.message}</p>}
      <ul className="plain buildlist">
        {builds.data?.map((b) => (
          <BuildLine key={b.id} build={b} remove={() => void remove(b.id, b.tag)} />
        ))}
        {builds.data?.length === 0 && <li>No build yet. Start one below, or open the demo.</li>}
      </ul>
      <p className="soft">A file with a build can be dropped anywhere on this page.</p>
      <form onSubmit={create} className="newbuild">
        <h2>
          New build <kbd>Alt N</kbd>
        </h2>
        <TextField label="Name" inputRef={first} value={name} onChange={(e) => setName(e.target.value)} slotProps={{ htmlInput: { maxLength: 200 } }} />
        <TextField label="Vehicle" value={vehicle} onChange={(e) => setVehicle(e.target.value)} />
        <TextField label="Engine" value={engine} onChange={(e) => setEngine(e.target.value)} />
        <TextField label="Gearbox" value={gearbox} onChange={(e) => setGearbox(e.target.value)} />
        <div className="actions">
          <Button variant="contained" type="submit">
            Start
          </Button>
          <Button variant="outlined" onClick={() => void opened(api.create('Pump tender, five-cylinder diesel', 'pump-tender'), 'stack')}>
            Demo: a copy of the pump tender
          </Button>
          <Button variant="outlined" onClick={() => void opened(api.create('Garden railway trolley, single cylinder', 'garden-trolley'), 'line')}>
            Demo: a copy of the trolley
          </Button>
          <Button variant="outlined" component="label">
            Import a file
            <input type="file" accept=".zip,.json,application/zip,application/json" hidden onChange={(e) => {
                void importFile(e.target.files?.[0])
                e.target.value = ''
              }} />
          </Button>
        </div>
      </form>
      <DataPanel />
    </main>
  )
}
