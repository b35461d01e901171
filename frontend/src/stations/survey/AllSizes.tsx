import { STATIONS } from '../../api/types'
import { Ledger } from '../../ledger/Ledger'
import { useBuild } from '../../shell/buildContext'
import { stationName } from '../../shell/StationRail'

/** Every dimension of the build with its evidence, by station; a size that several read stands once. */
export function AllSizes() {
  const { catalogue } = useBuild()
  const before = (n: number) => new Set(STATIONS.slice(0, n).flatMap((s) => (catalogue.ledgers[s] ?? []).map((l) => l.key)))
  return (
    <>
      {STATIONS.map((s, i) => (
        <Ledger key={s} station={s} title={stationName(s)} without={before(i)} />
      ))}
    </>
  )
}
