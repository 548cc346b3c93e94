import { useQuery } from '@tanstack/react-query';
import type { MeetingReplies, WaitingInvitation } from '../../contract/invitations.ts';
import { readApi } from '../app/index.ts';

/** Invitations that I have not answered, soonest first. */
export const useWaiting = () =>
  useQuery({
    queryKey: ['invitations', 'waiting'],
    queryFn: () => readApi<{ waiting: WaitingInvitation[] }>('/invitations'),
  });

/** Meetings that I organize, with their answers. */
export const useOrganized = () =>
  useQuery({
    queryKey: ['replies'],
    queryFn: () => readApi<{ meetings: MeetingReplies[] }>('/replies'),
  });
