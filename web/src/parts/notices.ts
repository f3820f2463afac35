import { create } from 'zustand'

export interface Notice {
  id: number
  sentence: string
  /** A way out that is offered with it. */
  action?: { label: string; run: () => void }
}

interface NoticeState {
  notices: Notice[]
  /** What is being waited for, while the server or its database is away. */
  away: string | null
  say: (sentence: string, action?: Notice['action']) => void
  dismiss: (id: number) => void
  setAway: (why: string | null) => void
}

let last = 0

export const useNotices = create<NoticeState>((set) => ({
  notices: [],
  away: null,
  say: (sentence, action) => {
    const notice: Notice = { id: ++last, sentence, ...(action ? { action } : {}) }
    set((s) => ({ notices: [...s.notices.filter((n) => n.sentence !== sentence), notice].slice(-3) }))
  },
  dismiss: (id) => set((s) => ({ notices: s.notices.filter((n) => n.id !== id) })),
  setAway: (away) => set({ away }),
}))

export const say = (sentence: string, action?: Notice['action']) => useNotices.getState().say(sentence, action)
