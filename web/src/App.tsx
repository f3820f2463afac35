import { useSyncExternalStore } from 'react'
import { BenchScreen } from './bench/BenchScreen'
import { Desk } from './desk/Desk'
import { Door } from './door/Door'
import { Notices } from './parts/Notices'
import { currentSheet, onNavigate } from './route'

export function App() {
  const sheet = useSyncExternalStore(onNavigate, currentSheet)
  return (
    <>
      {sheet === null ? <Desk /> : <BenchScreen key={sheet} id={sheet} />}
      <Door />
      <Notices />
    </>
  )
}
