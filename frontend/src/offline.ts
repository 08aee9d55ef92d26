import type { Account } from "./api/client";

const WHO = "furrow.account";

/** Have the page and what it is made of kept on the device, where the browser may: a phone, over HTTPS. */
export function keepOffline(): void {
  if (!import.meta.env.PROD || !("serviceWorker" in navigator)) return;
  // Without it everything works but opening the page where there is no network.
  window.addEventListener("load", () => void navigator.serviceWorker.register("/sw.js").catch(() => undefined));
}

/** Who signed in last on this device: where nobody answers, what they measured is kept under their name. */
export const lastAccount = {
  keep: (account: Account | null) => (account ? localStorage.setItem(WHO, account.name) : localStorage.removeItem(WHO)),
  get: (): Account | null => {
    const name = localStorage.getItem(WHO);
    return name === null ? null : { name };
  },
};
