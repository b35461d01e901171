import { INSTRUMENTS } from '../stations/instruments'

/** What the first picture does not need, fetched right after it: when the server is away later, everything still opens. */
export function fetchRest(): void {
  const parts = [
    import('./Panels'),
    import('./Alternatives'),
    import('../rows/RowsTable'),
    import('../rows/EvidenceCells'),
    import('../run/Run'),
    import('../tray/Tray'),
    import('../capture/CapturePage'),
    // What was caught while the server was away is sent from every page.
    import('../capture/queue').then((q) => q.sendCaught()),
    import('./RippleView'),
    import('../findings/FindingBody'),
    import('../ledger/StatementEditor'),
    import('../faces/FacePanel'),
    import('../board/ChartView'),
    ...Object.values(INSTRUMENTS).map((i) => i.fetch()),
  ]
  // What could not be fetched is asked for again when it is opened.
  void Promise.allSettled(parts)
}
