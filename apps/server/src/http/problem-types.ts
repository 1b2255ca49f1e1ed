interface ProblemKind {
  status: number | readonly number[];
  /** What has happened. */
  what: string;
  /** What to do. */
  fix: string;
}
const AGAIN =
  'Wait for as many seconds as `Retry-After` says and send it again, with the same key: it is done once.';
const LOOK_AGAIN = 'Fetch the edits since your version, look at what is there now, and ask again.';

/** Every type of problem that the server tells, by the end of its URN. `docs/problems.md` is made of it. */
export const PROBLEM_TYPES = {
  'bad-request': {
    status: [400, 415],
    what: 'A field of the request is missing, of the wrong kind, or out of its bounds; or the body is packed in a way that the server does not know.',
    fix: '`detail` names the field and what it must be. Bodies may be packed with gzip, deflate or brotli.',
  },
  'bad-json': {
    status: 400,
    what: 'The body is not JSON, or it is nested deeper than 200 levels.',
    fix: '`detail` says where it stops being JSON. Send UTF-8 without a byte order mark.',
  },
  'bad-text': {
    status: 400,
    what: 'The body is not UTF-8.',
    fix: 'Save the file as UTF-8 and send it again. Nothing is replaced in silence.',
  },
  'bad-encoding': {
    status: 415,
    what: 'A play is packed in a way that the server does not know.',
    fix: 'Send lines as they are, or packed with gzip.',
  },
  'no-token': {
    status: 401,
    what: 'The project takes plays only with its token, and none or another one was sent.',
    fix: 'Copy the token from Plays, and send it as `Authorization: Bearer TOKEN`.',
  },
  'wrong-origin': {
    status: 403,
    what: 'A page of another address wanted to write.',
    fix: 'Open Oquel at its own address. Programs that are no browser send no `Origin`.',
  },
  'sign-in': {
    status: 401,
    what: 'On this server people sign in, and the request came without a session or token that holds.',
    fix: 'Sign in; a program sends a token of the project as `Authorization: Bearer TOKEN`.',
  },
  'wrong-password': {
    status: 401,
    what: 'The sign-in name or the password is wrong; it is not said which.',
    fix: 'Try again. Who has forgotten the password asks an administrator for a link that sets a new one.',
  },
  'not-vouched': {
    status: 401,
    what: 'The provider of single sign-on did not vouch for anybody, or its answer could not be trusted.',
    fix: 'Begin again from the page for signing in. The security log has the reason.',
  },
  'no-provider': {
    status: 502,
    what: 'The provider of single sign-on does not answer, or not as it should.',
    fix: 'Look whether `OQUEL_OIDC_ISSUER` is its address and can be reached from the server.',
  },
  'too-many-tries': {
    status: 429,
    what: 'Too many have tried in vain to sign in, to this account or from this address.',
    fix: 'Wait for as long as `detail` and `Retry-After` say.',
  },
  'not-allowed': {
    status: 403,
    what: 'Whoever asks has no role that may do this, or the token is not for it. `needs` is the role, `may` names some who have it.',
    fix: 'Ask one of them, or a lead of the project for another role.',
  },
  'no-team': {
    status: 404,
    what: 'Nobody signs in on this server, so it has no people, roles and tokens.',
    fix: 'Start it with `OQUEL_TEAM=1`, or bound to an address that is not loopback.',
  },
  'teams-own': {
    status: 404,
    what: 'On a team’s server this is done in another way.',
    fix: 'Make a token for plays among the tokens of the project.',
  },
  'no-invitation': {
    status: 410,
    what: 'The invitation was used, withdrawn, or is too old.',
    fix: 'Ask whoever invited you for another one.',
  },
  'name-taken': {
    status: 409,
    what: 'Somebody else has that name, or signs in by it.',
    fix: 'Choose another one; `fields` names which.',
  },
  'last-administrator': {
    status: 409,
    what: 'A server without an administrator could not be put right.',
    fix: 'Make somebody else an administrator first.',
  },
  'too-many': {
    status: 409,
    what: 'There are as many projects, tokens or open invitations as there may be.',
    fix: 'Remove those that are not needed.',
  },
  'not-found': {
    status: 404,
    what: 'Nothing is at that address.',
    fix: 'Compare the address with `/api/openapi.json`.',
  },
  'no-project': {
    status: 404,
    what: 'There is no project of that id.',
    fix: 'Look for it in the list of projects; it may have been deleted for good.',
  },
  'no-build': {
    status: 404,
    what: 'The project has no build of that id.',
    fix: 'Take an id from the list of its builds.',
  },
  'no-stream': {
    status: 404,
    what: 'The stream of events has ended.',
    fix: 'Open another one and tell it again what your window looks at.',
  },
  'no-play': {
    status: 404,
    what: 'The project has no play of that id, or none at all.',
    fix: 'Take an id from the list of its plays; old ones are removed.',
  },
  'no-picture': {
    status: 404,
    what: 'The project has no picture of that name.',
    fix: 'Choose the picture again in Plan.',
  },
  'stale-edit': {
    status: 409,
    what: 'Somebody else has meanwhile changed the same thing. `theirs` and `yours` are both sides; yours is not stored.',
    fix: 'Keep theirs, or send yours again with the newest version as its base.',
  },
  'depended-on': {
    status: 409,
    what: 'The edit cannot be undone alone, since the edits in `later` touch the same.',
    fix: 'Undo those first, from the newest on.',
  },
  'not-in-force': {
    status: 409,
    what: 'There is no edit of that version that is in force.',
    fix: 'It may have been undone; look at the history.',
  },
  'nothing-to-undo': {
    status: 409,
    what: 'You have no edit that could be undone.',
    fix: 'Undo an edit of others from the history.',
  },
  'nothing-to-redo': {
    status: 409,
    what: 'You have no undone edit that could come back; an edit after an undo drops it.',
    fix: 'Take the edit back from the history.',
  },
  'not-next': {
    status: 409,
    what: 'Another edit has come to be the one that undo or redo would take; it is `next`.',
    fix: LOOK_AGAIN,
  },
  'changed-meanwhile': {
    status: 409,
    what: 'The project has changed since the version that was looked at; `version` is the newest.',
    fix: LOOK_AGAIN,
  },
  'unknown-version': {
    status: 409,
    what: 'The edit is made against a version that does not exist, as the database may have been restored from a backup; or against one so old that the history no longer goes back to it.',
    fix: 'Open the project again.',
  },
  'no-difference': {
    status: 409,
    what: 'The project is like that already.',
    fix: 'There is nothing to do.',
  },
  'build-name-taken': {
    status: 409,
    what: 'The project has a build of that name.',
    fix: 'Give it another name.',
  },
  'other-origin': {
    status: 409,
    what: 'Two manifests with different origins declare the same thing.',
    fix: 'Let one of them leave it out, or send both as one origin.',
  },
  'too-many-pictures': {
    status: 409,
    what: 'The project has as many pictures as it may.',
    fix: 'Remove the backdrops that are not needed.',
  },
  'edit-no-asset': {
    status: 409,
    what: 'A change names a scene, prefab or widget that is not there; `change` is its position.',
    fix: LOOK_AGAIN,
  },
  'edit-no-item': {
    status: 409,
    what: 'A change names a placement or binding that is not there; `change` is its position.',
    fix: LOOK_AGAIN,
  },
  'edit-id-taken': {
    status: 409,
    what: 'A change adds an id that is there already; `change` is its position.',
    fix: 'Choose another id.',
  },
  'edit-broken-item': {
    status: 422,
    what: 'What a change puts in is not valid; `problems` says where and why.',
    fix: 'Mend it by `docs/format.md`, and send all changes again: none was stored.',
  },
  'project-deleted': {
    status: 410,
    what: 'The project was deleted, and is kept for some time.',
    fix: 'Restore it from the list of projects.',
  },
  'too-large': {
    status: 413,
    what: 'The body, unpacked, is larger than `limit`, or the work would need more memory than is allowed.',
    fix: 'Divide it, or raise the bound in the settings of the server.',
  },
  'wrong-host': {
    status: 421,
    what: 'The server was asked by a name that is not its own.',
    fix: 'Use its own address, or add the name to `OQUEL_HOSTS`.',
  },
  'broken-document': {
    status: 422,
    what: 'The document is not valid; `problems` says where, what was expected, and what was found. Nothing was stored.',
    fix: 'Mend it by `docs/format.md`, or check it with `oquel audit FILE`.',
  },
  'project-too-large': {
    status: 422,
    what: 'The project expands to more than can be audited; `chain` says along which placements it multiplies.',
    fix: 'Place less along that chain.',
  },
  'reason-needed': {
    status: 422,
    what: 'A build that the gate stops is let through only with a reason.',
    fix: 'Say why.',
  },
  'too-many-requests': { status: 429, what: 'This address has sent too many requests.', fix: AGAIN },
  internal: {
    status: 500,
    what: 'Something went wrong that nobody foresaw. The server has logged it with the id in `request`.',
    fix: 'Send it once more; if it fails again, look for that id in the log.',
  },
  stopping: { status: 503, what: 'The server is being stopped, or started anew.', fix: AGAIN },
  busy: { status: 503, what: 'The server has as much to do as it takes on.', fix: AGAIN },
  'too-slow': {
    status: 503,
    what: 'It took longer than it may, or another edit of the project is still running; nothing was stored.',
    fix: AGAIN,
  },
  'disk-full': {
    status: 503,
    what: 'The disk that holds the database has no space left; nothing was stored.',
    fix: 'Free some space there, and send it again.',
  },
  'database-down': {
    status: 503,
    what: 'The database does not answer. It is not known whether this was stored.',
    fix: AGAIN,
  },
} as const satisfies Record<string, ProblemKind>;

export type ProblemType = keyof typeof PROBLEM_TYPES;
