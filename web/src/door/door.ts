import { create } from 'zustand'

/** The secret of the link that was followed: it is behind the #, so that no server hears of it by itself. */
export function passwordLink(): string | null {
  return /^#password=([\w-]+)$/.exec(window.location.hash)?.[1] ?? null
}

/** Whether the server wants to know who is here before it says anything. What was asked for is asked again once it knows. */
export const useDoor = create<{ shut: boolean; link: string | null }>(() => ({ shut: false, link: passwordLink() }))

export const shutDoor = () => useDoor.setState({ shut: true })
export const openDoor = () => useDoor.setState({ shut: false })
