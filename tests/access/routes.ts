/** What a route is to whoever asks: whom it lets in, and what of others it could show. */
export type Kind =
  /** For everybody, signed in or not. */
  | 'open'
  /** What is one's own, and nothing of others. */
  | 'own'
  /** One thing of one's own by its number; somebody else's looks as if it were not there. */
  | 'own by number'
  /** People, places and their names, for everybody who is signed in. */
  | 'catalogue'
  /** An event, for whoever may read it. */
  | 'reads event'
  /** An event, for whoever may change it. */
  | 'changes event'
  /** An event, for those invited. */
  | 'answers event'
  /** An event, for those invited and whoever may change it. */
  | 'talks about event'
  /** A booking named in the body, for those who take part in it and those who look after places. */
  | 'a booking'
  /** For those who look after places alone. */
  | 'stewards'
  /** Times and titles of others, each as far as it is shared; looked at below by themselves. */
  | 'projected';

/** Every route there is. One that is not here fails the test: who may use it is then not decided. */
export const ROUTES: Record<string, Kind> = {
  'GET /api/health': 'open',
  'GET /api/session': 'open',
  'POST /api/session': 'open',
  'DELETE /api/session': 'open',
  'POST /api/setup': 'open',
  'GET /api/guest/:token': 'open',
  'POST /api/guest/:token/reply': 'open',
  'GET /api/guest/:token/calendar': 'open',
  'GET /api/guest/:token/days': 'open',
  'PUT /api/guest/:token/proposals': 'open',
  'GET /api/live': 'projected',
  'GET /api/delegates': 'own',
  'PUT /api/delegates/:id': 'own',
  'DELETE /api/delegates/:id': 'own',
  'GET /api/notifications': 'own',
  'POST /api/notifications/read': 'own',
  'GET /api/search': 'catalogue',
  'GET /api/search/names': 'catalogue',
  'GET /api/people': 'catalogue',
  'GET /api/places': 'projected',
  'GET /api/places/board': 'projected',
  'GET /api/places/find': 'catalogue',
  'GET /api/places/:id': 'projected',
  'GET /api/places/:id/day': 'projected',
  'GET /api/bookings/mine': 'own',
  'POST /api/bookings/check-in': 'a booking',
  'POST /api/bookings/check-out': 'a booking',
  'GET /api/bookings/requests': 'stewards',
  'POST /api/bookings/requests/decide': 'stewards',
  'GET /api/waiting': 'own',
  'POST /api/waiting': 'own',
  'POST /api/waiting/:id/take': 'own by number',
  'DELETE /api/waiting/:id': 'own by number',
  'GET /api/ledger': 'projected',
  'GET /api/ledger/bookings.csv': 'projected',
  'GET /api/ledger/bookings.ics': 'projected',
  'POST /api/ledger/change': 'projected',
  'GET /api/ledger/views': 'own',
  'POST /api/ledger/views': 'own',
  'DELETE /api/ledger/views/:id': 'own by number',
  'GET /api/catalogue/choices': 'stewards',
  'POST /api/catalogue/places': 'stewards',
  'PATCH /api/catalogue/places/:id': 'stewards',
  'POST /api/catalogue/places/:id/preview': 'stewards',
  'GET /api/catalogue/places/:id/retire': 'stewards',
  'POST /api/catalogue/places/:id/retire': 'stewards',
  'POST /api/catalogue/import': 'stewards',
  'GET /api/places/:id/closures/preview': 'stewards',
  'POST /api/places/:id/closures': 'stewards',
  'DELETE /api/places/:id/closures/:closure': 'stewards',
  'PUT /api/places/:id/favourite': 'own',
  'DELETE /api/places/:id/favourite': 'own',
  'POST /api/availability/busy': 'projected',
  'POST /api/availability/rooms': 'catalogue',
  'POST /api/availability/movable': 'own',
  'POST /api/availability/history': 'own',
  'POST /api/availability/refresh': 'projected',
  'POST /api/availability/openings': 'projected',
  'POST /api/events': 'own',
  'GET /api/events/:id': 'reads event',
  'PATCH /api/events/:id': 'changes event',
  'PUT /api/events/:id/mine': 'reads event',
  'POST /api/events/:id/cancel': 'changes event',
  'POST /api/events/:id/send': 'changes event',
  'POST /api/events/:id/restore': 'changes event',
  'POST /api/events/:id/undo': 'changes event',
  'POST /api/events/:id/nudge': 'changes event',
  'POST /api/events/:id/resend': 'changes event',
  'POST /api/events/:id/invite': 'changes event',
  'POST /api/events/:id/proposals/decline': 'changes event',
  'GET /api/events/:id/comments': 'talks about event',
  'POST /api/events/:id/comments': 'talks about event',
  'PATCH /api/events/:id/comments/:comment': 'talks about event',
  'DELETE /api/events/:id/comments/:comment': 'talks about event',
  'POST /api/events/:id/comments/:comment/restore': 'talks about event',
  'POST /api/events/:id/attachments': 'changes event',
  'GET /api/events/:id/attachments/:attachment': 'reads event',
  'DELETE /api/events/:id/attachments/:attachment': 'changes event',
  'GET /api/calendar': 'projected',
  'GET /api/calendar/fullness': 'own',
  'GET /api/calendar/holidays': 'own',
  'GET /api/calendar/search': 'projected',
  'GET /api/calendar/cancelled': 'own',
  'GET /api/calendar/layers': 'own',
  'POST /api/calendar/layers': 'own',
  'PATCH /api/calendar/layers/:id': 'own by number',
  'DELETE /api/calendar/layers/:id': 'own by number',
  'PATCH /api/preferences': 'own',
  'GET /api/categories': 'own',
  'POST /api/categories': 'own',
  'PATCH /api/categories/:id': 'own by number',
  'DELETE /api/categories/:id': 'own by number',
  'GET /api/replies/:id/aside': 'changes event',
  'GET /api/incoming': 'own',
  'POST /api/incoming/:id/count': 'own by number',
  'POST /api/incoming/:id/leave': 'own by number',
  'GET /api/reminders': 'own',
  'POST /api/reminders/snooze': 'own',
  'POST /api/reminders/dismiss': 'own',
  'GET /api/line-ups': 'own',
  'PUT /api/line-ups': 'own',
  'DELETE /api/line-ups/:id': 'own by number',
  'POST /api/line-ups/addresses': 'catalogue',
  'GET /api/invitations': 'own',
  'GET /api/invitations/:id': 'answers event',
  'POST /api/invitations/:id/reply': 'answers event',
  'GET /api/invitations/:id/days': 'reads event',
  'PUT /api/invitations/:id/proposals': 'answers event',
  'GET /api/replies': 'own',
  'GET /api/replies/:id/history': 'changes event',
  'GET /api/replies/:id/times': 'changes event',
  'POST /api/replies/:id/times': 'changes event',
  // The Mailroom is a stand-in: in the demonstration everybody reads all of it, elsewhere their own.
  'POST /api/mailroom/drop': 'own',
  'GET /api/mailroom': 'own',
  'GET /api/mailroom/:id': 'own by number',
  'GET /api/mailroom/:id/letter': 'own by number',
  'GET /api/mailroom/:id/source': 'own by number',
  'POST /api/mailroom/:id/answer': 'own by number',
};
