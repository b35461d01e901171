import Button from '@mui/material/Button'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api, queries } from '../api/client'
import type { BuildState } from '../api/types'
import { openPanel } from '../shell/looked'
import { Brand } from '../shell/TopBar'
import { BuildLine } from './BuildLine'
import { DataPanel } from './DataPanel'
import { ShopPanel } from './ShopPanel'
import { NewBuild } from './NewBuild'
import './builds.css'

/** What a demo brings with it is not asked. */
const DEMO = { vehicle: '', engine: '', gearbox: '', layout: 'lengthwise', options: {} } as const

/** All builds; a new one, the demo, or one from a file. */
export default function BuildsPage() {
  const builds = useQuery(queries.builds())
  const client = useQueryClient()
  const navigate = useNavigate()
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
  const remove = async (id: string, tag: string) => {
    try {
      await api.remove(id, tag)
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : String(error))
    }
    await client.invalidateQueries({ queryKey: ['builds'] })
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
      <NewBuild opened={opened} tell={setTrouble}>
        <Button variant="outlined" onClick={() => void opened(api.create({ ...DEMO, name: 'Pump tender, five-cylinder diesel', demo: 'pump-tender' }), 'stack')}>
          Demo: a copy of the pump tender
        </Button>
        <Button variant="outlined" onClick={() => void opened(api.create({ ...DEMO, name: 'Garden railway trolley, single cylinder', demo: 'garden-trolley' }), 'line')}>
          Demo: a copy of the trolley
        </Button>
        <Button variant="outlined" onClick={() => void opened(api.create({ ...DEMO, name: 'Timber winch, flat-four petrol', demo: 'timber-winch' }), 'mate')}>
          Demo: a copy of the winch
        </Button>
        <Button variant="outlined" onClick={() => void opened(api.create({ ...DEMO, name: 'Dune patrol car, converter automatic', demo: 'dune-car' }), 'stack')}>
          Demo: a copy of the dune car
        </Button>
        <Button variant="outlined" onClick={() => void opened(api.create({ ...DEMO, name: 'First build, guided', options: { coupling: 'clutch and bellhousing' }, demo: '' }), 'stack').then(() => openPanel('guide'))}>
          Guided first build, ten minutes
        </Button>
        <Button variant="outlined" component="label">
          Import a file
          <input
            type="file"
            accept=".zip,.json,application/zip,application/json"
            hidden
            onChange={(e) => {
              void importFile(e.target.files?.[0])
              e.target.value = ''
            }}
          />
        </Button>
      </NewBuild>
      <ShopPanel />
      <DataPanel />
    </main>
  )
}
