import { useMutation, useQueryClient } from '@tanstack/react-query';
import { troubleOf } from '../../api/send';
import { Trouble } from '../../ui/Trouble';

export function useKeep(onClose: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (work: () => Promise<unknown>) => work(),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['kit'] });
      await client.invalidateQueries({ queryKey: ['card'] });
      onClose();
    },
  });
}

export const KeepTrouble = ({ error }: { error: unknown }) => <Trouble text={error ? troubleOf(error) : undefined} />;
