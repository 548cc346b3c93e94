import { MOST_OF_PAGE } from './limits.ts';
import { GROUP_SCHEMA, USER_SCHEMA } from './resources.ts';

const CORE = 'urn:ietf:params:scim:schemas:core:2.0';

/** What Marmot can (RFC 7643 section 5). */
export const serviceProviderConfig = (base: string) => ({
  schemas: [`${CORE}:ServiceProviderConfig`],
  patch: { supported: true },
  bulk: { supported: false, maxOperations: 0, maxPayloadSize: 0 },
  filter: { supported: true, maxResults: MOST_OF_PAGE },
  changePassword: { supported: false },
  sort: { supported: false },
  etag: { supported: true },
  authenticationSchemes: [
    {
      type: 'oauthbearertoken',
      name: 'Bearer token',
      description: 'A token that an administrator makes in Marmot',
      specUri: 'https://www.rfc-editor.org/info/rfc6750',
      primary: true,
    },
  ],
  meta: { resourceType: 'ServiceProviderConfig', location: `${base}/ServiceProviderConfig` },
});

/** RFC 7643 section 6. */
export const resourceTypes = (base: string) =>
  [
    ['User', 'Users', USER_SCHEMA, 'People of the organization'],
    ['Group', 'Groups', GROUP_SCHEMA, 'Teams'],
  ].map(([name, path, schema, description]) => ({
    schemas: [`${CORE}:ResourceType`],
    id: name,
    name,
    endpoint: `/${path}`,
    description,
    schema,
    meta: { resourceType: 'ResourceType', location: `${base}/ResourceTypes/${name}` },
  }));

interface Attribute {
  name: string;
  type: string;
  description: string;
  subAttributes?: object[];
  [characteristic: string]: unknown;
}

/** An attribute with its characteristics (RFC 7643 section 2.2); what is not given is usual. */
const attribute = (
  name: string,
  type: string,
  description: string,
  more: Partial<Attribute> = {},
): Attribute => ({
  ...{ name, type, description, multiValued: false, required: false, caseExact: false },
  ...{ mutability: 'readWrite', returned: 'default', uniqueness: 'none' },
  ...more,
});

const value = (description: string) =>
  attribute('value', 'string', description, { mutability: 'immutable' });
const readOnly = { mutability: 'readOnly' };

/** What of Users and Groups there is here (RFC 7643 section 7). */
export const schemas = (base: string) =>
  [
    {
      id: USER_SCHEMA,
      name: 'User',
      description: 'Somebody of the organization',
      attributes: [
        attribute('userName', 'string', 'The mail address by which they sign in', {
          required: true,
          uniqueness: 'server',
        }),
        attribute('name', 'complex', 'Their name in parts', {
          subAttributes: [
            attribute('formatted', 'string', 'The whole name'),
            attribute('givenName', 'string', 'The first word of it'),
            attribute('familyName', 'string', 'The others'),
          ],
        }),
        attribute('displayName', 'string', 'What they are called here'),
        attribute('title', 'string', 'Their work'),
        attribute('timezone', 'string', 'Their zone, such as Europe/Oslo (IANA)'),
        attribute('active', 'boolean', 'Whether they may sign in'),
        attribute('emails', 'complex', 'Their mail address', {
          multiValued: true,
          subAttributes: [
            attribute('value', 'string', 'The address'),
            attribute('type', 'string', 'Always work'),
            attribute('primary', 'boolean', 'Always true'),
          ],
        }),
        attribute('groups', 'complex', 'Their teams', {
          ...readOnly,
          multiValued: true,
          subAttributes: [
            attribute('value', 'string', 'The id of the Group', readOnly),
            attribute('$ref', 'reference', 'Where it is', {
              ...readOnly,
              referenceTypes: ['Group'],
            }),
            attribute('display', 'string', 'What it is called', readOnly),
            attribute('type', 'string', 'Always direct', readOnly),
          ],
        }),
      ],
    },
    {
      id: GROUP_SCHEMA,
      name: 'Group',
      description: 'A team',
      attributes: [
        attribute('displayName', 'string', 'What it is called', {
          required: true,
          uniqueness: 'server',
        }),
        attribute('members', 'complex', 'Who is in it', {
          multiValued: true,
          subAttributes: [
            value('The id of the User'),
            attribute('$ref', 'reference', 'Where it is', {
              ...readOnly,
              referenceTypes: ['User'],
            }),
            attribute('display', 'string', 'What they are called', readOnly),
            attribute('type', 'string', 'Always User', { mutability: 'immutable' }),
          ],
        }),
      ],
    },
  ].map((schema) => ({
    schemas: [`${CORE}:Schema`],
    ...schema,
    meta: { resourceType: 'Schema', location: `${base}/Schemas/${schema.id}` },
  }));
