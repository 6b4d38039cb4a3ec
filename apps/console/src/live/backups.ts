import { useQuery } from '@tanstack/react-query';
import type { BackupPlanChange } from '@tombolo/contract';
import { backupRoutes } from '@tombolo/contract/routes/backups';
import { ask, urlOf } from './ask';

export const backupApi = {
  backupPlan: () => ask(backupRoutes.backupPlan, {}),
  changeBackupPlan: (body: BackupPlanChange) => ask(backupRoutes.changeBackupPlan, { body }),
  backups: () => ask(backupRoutes.backups, {}),
  makeBackup: (passphrase: string) => ask(backupRoutes.makeBackup, { body: { passphrase } }),
  backupUrl: (id: string) => urlOf(backupRoutes.backupFile, { params: { id } }),
};

export const useBackupPlan = () => useQuery({ queryKey: ['backup plan'], queryFn: backupApi.backupPlan });

export const useBackups = () => useQuery({ queryKey: ['backups'], queryFn: backupApi.backups });
