import { useMutation, useQueryClient } from '@tanstack/react-query';
import { troubleOf } from '../../api/send';

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

export const Trouble = ({ error }: { error: unknown }) =>
  error ? (
    <p role="alert" className="mb-3 font-semibold text-refused">
      {troubleOf(error)}
    </p>
  ) : null;
