import { useEffect, useState } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { SignIn } from "./account/SignIn";
import { api, type Account } from "./api/client";
import { client } from "./api/queries";
import { FieldScreen } from "./field/FieldScreen";
import { JobScreen } from "./job/JobScreen";
import { JobsScreen } from "./jobs/JobsScreen";

/** Who is here, and which screen. */
export function App() {
  const [account, setAccount] = useState<Account | null | undefined>(undefined);
  useEffect(() => {
    api.who().then(setAccount, () => setAccount(null));
  }, []);
  if (account === undefined) return <p className="p-6">Opening…</p>;
  if (account === null) return <SignIn enter={setAccount} />;
  const leave = () =>
    void api.leave().then(() => {
      client.clear();
      setAccount(null);
    });
  return (
    <BrowserRouter>
      <Routes>
        <Route path="/" element={<JobsScreen name={account.name} leave={leave} />} />
        <Route path="/jobs/:id" element={<JobScreen account={account.name} />} />
        <Route path="/jobs/:id/field" element={<FieldScreen account={account.name} />} />
        <Route path="/jobs/:id/:stage" element={<JobScreen account={account.name} />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </BrowserRouter>
  );
}
