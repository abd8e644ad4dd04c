import { Modal } from 'ant-design-vue';

/** A question before an act that cannot be taken back, or that leaves something behind. */
export interface Question {
  title: string;
  content: string;
  /** What the act is called on its button. */
  act: string;
  /** What not doing it is called. */
  stay: string;
  /** The act ends or removes something. */
  grave?: boolean;
}

type Ask = (question: Question, act: () => unknown) => void;

let asker: Ask | null = null;

/** Where questions come up; the application's root takes this up once, so that they follow its theme. */
export function useQuestions() {
  const [modal, Holder] = Modal.useModal();
  asker = (question, act) =>
    void modal.confirm({
      title: question.title,
      content: question.content,
      okText: question.act,
      cancelText: question.stay,
      okButtonProps: { danger: question.grave ?? false },
      autoFocusButton: 'cancel',
      onOk: () => act(),
    });
  return Holder;
}

/** Asks, and does the act when the answer is yes. */
export function askFirst(question: Question, act: () => unknown): void {
  if (!asker) throw new Error('nobody is there to ask: the root of the application takes useQuestions');
  asker(question, act);
}
