import type { QuestionRow } from '../api/types'
import { Guide } from '../guide/Guide'
import { WaysDrawer } from '../findings/WaysDrawer'
import { GaugeBox } from '../tray/GaugeBox'
import { PhotoPanel } from '../photos/PhotoPanel'
import { TablePanel } from '../tray/TablePanel'
import { EventDialog } from './EventDialog'
import { HistoryDrawer } from './HistoryDrawer'
import { KeysDialog } from './KeysDialog'
import { closePanel, useLooked } from './looked'
import { OpenDrawer } from './OpenDrawer'

/** What is open over the station. */
export default function Panels({ question }: { question: QuestionRow | undefined }) {
  const panel = useLooked((l) => l.panel)
  if (panel === 'keys') return <KeysDialog close={closePanel} />
  if (panel === 'history') return <HistoryDrawer close={closePanel} />
  if (panel === 'event') return <EventDialog close={closePanel} />
  if (panel === 'open') return <OpenDrawer close={closePanel} />
  if (panel === 'ways') return <WaysDrawer close={closePanel} />
  if (panel === 'table') return <TablePanel question={question?.key ?? ''} close={closePanel} />
  if (panel === 'gauges') return <GaugeBox close={closePanel} />
  if (panel === 'photos') return <PhotoPanel close={closePanel} />
  if (panel === 'guide') return <Guide close={closePanel} />
  return null
}
