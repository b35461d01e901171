import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, queries } from '../api/client'
import type { ShopState } from '../api/types'
import { once } from '../entry/hands'
import { when } from '../shell/when'
import './builds.css'

type DeviceLine = ShopState['devices'][number]

/** When a device asked last, in words. */
function seen(device: DeviceLine): string {
  if (device.here) return 'this device'
  if (device.seen_seconds == null) return 'not seen since Pindo was started'
  return device.seen_seconds < 60 ? 'here now' : `seen ${Math.round(device.seen_seconds / 60)} min ago`
}

function Device({ device, ask }: { device: DeviceLine; ask: (what: Promise<ShopState>) => void }) {
  const [name, setName] = useState(device.name)
  const rename = () => {
    if (name.trim() !== '' && name.trim() !== device.name) ask(api.nameDevice(device.id, name.trim()))
  }
  return (
    <li>
      <input aria-label={`Name of ${device.name}`} value={name} maxLength={60} onChange={(e) => setName(e.target.value)} onBlur={rename} onKeyDown={(e) => e.key === 'Enter' && rename()} />
      <span className="soft">
        {seen(device)}, let in {when(device.first_at)}
      </span>
      <button type="button" className="quiet" onClick={once(() => ask(api.sendAway(device.id)))}>
        send away<span className="visually-hidden"> {device.name}</span>
      </button>
    </li>
  )
}

/** Who else is served: the picture code that lets a phone in, and the devices that were. Nothing where only this machine is. */
export function ShopPanel() {
  const shop = useQuery(queries.shop()).data
  const client = useQueryClient()
  const [wrong, tell] = useState('')
  const ask = (what: Promise<ShopState>) => {
    what.then(
      (state) => {
        tell('')
        client.setQueryData(queries.shop().queryKey, state)
      },
      (error: Error) => tell(error.message),
    )
  }
  if (shop === undefined) return null
  if (!shop.open) return <p className="soft">Only this machine is served. For a phone in the pit: ./pindo serve --shop.</p>
  return (
    <section aria-label="Devices of the shop" className="shoppanel">
      <h2>Devices of the shop</h2>
      <div className="shopcode">
        <img src="/api/shop/code.svg" alt={`Picture code of ${shop.address} with the shop's key`} width={168} height={168} />
        <p>
          A camera that sees this is let in, at <span className="mono">{shop.address}</span>, and may change every build. It goes over the air unencrypted: a network of the shop’s own, with nobody else on it. The history names the device of every change.
        </p>
      </div>
      {wrong !== '' && (
        <p role="alert" className="fouls">
          {wrong}
        </p>
      )}
      <ul className="plain devices">
        {shop.devices.map((d) => (
          <Device key={`${d.id}${d.name}`} device={d} ask={ask} />
        ))}
      </ul>
    </section>
  )
}
