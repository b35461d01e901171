import { Ledger } from '../../ledger/Ledger'
import { useBuild } from '../../shell/buildContext'
import { stationName } from '../../shell/StationRail'

/** Every dimension of the build with its evidence, by question; a size that several ask for stands once. */
export default function AllSizes() {
  const { catalogue } = useBuild()
  const before = (n: number) => new Set(catalogue.questions.slice(0, n).flatMap((q) => q.ledger.map((l) => l.key)))
  return (
    <>
      {catalogue.questions.map((q, i) => (
        <Ledger key={q.key} question={q} title={`${stationName(q.station)}: ${q.name}`} without={before(i)} />
      ))}
    </>
  )
}
