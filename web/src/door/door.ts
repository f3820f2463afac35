import { create } from 'zustand'

/** Whether the server wants to know who is here before it says anything. What was asked for is asked again once it knows. */
export const useDoor = create<{ shut: boolean }>(() => ({ shut: false }))

export const shutDoor = () => useDoor.setState({ shut: true })
export const openDoor = () => useDoor.setState({ shut: false })
