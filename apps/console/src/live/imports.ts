import { useQuery } from '@tanstack/react-query';
import { importRoutes } from '@tombolo/contract/routes/imports';
import { ask } from './ask';

export const importApi = {
  imports: () => ask(importRoutes.imports, {}),
  // As long as it takes to read: how far it is tells the list.
  importFile: (file: Blob, name: string, format: string) =>
    ask(importRoutes.readRecording, { query: { name, format } }, { octets: file, withinMs: null }),
  removeImport: (id: string) => ask(importRoutes.removeImport, { params: { id } }),
};

export const useImports = () => useQuery({ queryKey: ['imports'], queryFn: importApi.imports });
