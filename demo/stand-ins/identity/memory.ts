import type { Adapter, AdapterPayload } from 'oidc-provider';

/** What the stand-in keeps of one kind, as long as the process lives. */
export class MemoryAdapter implements Adapter {
  private static readonly kept = new Map<string, AdapterPayload>();

  constructor(private readonly kind: string) {}

  private key = (id: string): string => `${this.kind} ${id}`;
  private findBy(holds: (payload: AdapterPayload) => boolean) {
    const found = [...MemoryAdapter.kept].find(
      ([key, payload]) => key.startsWith(`${this.kind} `) && holds(payload),
    );
    return Promise.resolve(found?.[1]);
  }

  upsert(id: string, payload: AdapterPayload): Promise<undefined> {
    MemoryAdapter.kept.set(this.key(id), payload);
    return Promise.resolve(undefined);
  }
  find(id: string): Promise<AdapterPayload | undefined> {
    return Promise.resolve(MemoryAdapter.kept.get(this.key(id)));
  }
  findByUserCode(userCode: string): Promise<AdapterPayload | undefined> {
    return this.findBy((payload) => payload.userCode === userCode);
  }
  findByUid(uid: string): Promise<AdapterPayload | undefined> {
    return this.findBy((payload) => payload.uid === uid);
  }
  consume(id: string): Promise<undefined> {
    const payload = MemoryAdapter.kept.get(this.key(id));
    if (payload) payload.consumed = Math.floor(Date.now() / 1000);
    return Promise.resolve(undefined);
  }
  destroy(id: string): Promise<undefined> {
    MemoryAdapter.kept.delete(this.key(id));
    return Promise.resolve(undefined);
  }
  revokeByGrantId(grantId: string): Promise<undefined> {
    for (const [key, payload] of MemoryAdapter.kept)
      if (payload.grantId === grantId) MemoryAdapter.kept.delete(key);
    return Promise.resolve(undefined);
  }
}
