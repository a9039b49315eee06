import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import type { Question } from './signers';

/** A seal stays for ever: what is unusual about this one is read first, and answered. */
export function SealQuestions({
  asked,
  signed,
  onSeal,
  onClose,
}: {
  asked: Question[];
  signed: number;
  onSeal: () => void;
  onClose: () => void;
}) {
  return (
    <Sheet title={t('handover.ask.title')} hint={t('handover.ask.hint')} onClose={onClose}>
      <ul className="list-disc pl-5">
        {asked.map((q) => (
          <li key={q.code + q.words.join()} className="py-1">
            {t(`handover.ask.${q.code}`, ...q.words)}
          </li>
        ))}
      </ul>
      <div className="mt-4 flex flex-wrap gap-x-5">
        <button className="forward" onClick={onClose}>
          {t('handover.ask.back')}
        </button>
        <button className="plain" onClick={onSeal}>
          {signed > 0 ? t('handover.ask.seal-signed', signed) : t('handover.seal-unsigned')}
        </button>
      </div>
    </Sheet>
  );
}
