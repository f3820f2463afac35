import { useQuery } from '@tanstack/react-query'
import { call } from '../../api/client'
import type { DrawingCard } from '../../types/DrawingCard'

/** What is known of an imported drawing; nothing until the server has answered. */
export function useDrawing(id: string | undefined): DrawingCard | undefined {
  return useQuery({
    queryKey: ['drawing', id],
    enabled: id !== undefined,
    staleTime: Infinity,
    queryFn: () => call<DrawingCard>('GET', `/drawings/${id}`),
  }).data
}
