import { useQuery } from '@tanstack/react-query'
import { call } from '../../api/client'
import type { FontCard } from '../../types/FontCard'

const asked = new Set<string>()

/** The fonts for lettering; each becomes the CSS family `inky-ID`, so that its name can be shown in itself. */
export function useFonts(): FontCard[] {
  const query = useQuery({
    queryKey: ['fonts'],
    staleTime: Infinity,
    queryFn: async () => {
      const fonts = await call<FontCard[]>('GET', '/fonts')
      for (const { id } of fonts) {
        if (asked.has(id)) continue
        asked.add(id)
        const face = new FontFace(`inky-${id}`, `url(/api/fonts/${id})`)
        document.fonts.add(face)
        // a face that does not load shows its name in the page's own type
        void face.load().catch(() => asked.delete(id))
      }
      return fonts
    },
  })
  return query.data ?? []
}
