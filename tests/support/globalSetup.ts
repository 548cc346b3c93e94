import type { TestProject } from 'vitest/node';
import { createTemplate, startTestCluster } from './cluster.ts';

declare module 'vitest' {
  export interface ProvidedContext {
    adminUrl: string;
    template: string;
  }
}

export default async function setUp(project: TestProject) {
  const cluster = await startTestCluster();
  project.provide('template', await createTemplate(cluster));
  project.provide('adminUrl', cluster.url('postgres'));
  return () => cluster.end();
}
