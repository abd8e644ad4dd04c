import { defineAsyncComponent } from 'vue';

/** A page that says one thing, with what can be done; fetched when there is something to say. */
export const MessagePage = defineAsyncComponent(() => import('ant-design-vue/es/result'));
