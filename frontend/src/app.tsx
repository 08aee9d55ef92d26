import { useEffect, useState } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { SignIn } from "./account/SignIn";
import { api, isAway, Problem, type Account } from "./api/client";
import { client } from "./api/queries";
import { FieldScreen } from "./field/FieldScreen";
import { JobScreen } from "./job/JobScreen";
import { JobsScreen } from "./jobs/JobsScreen";
import { LookScreen } from "./look/LookScreen";
import { lastAccount } from "./offline";

/** Who came by a link looks, without an account; everybody else signs in. */
export function App() {
  return (
    <BrowserRouter>
      <Routes>
        <Route path="/look/:token" element={<LookScreen />} />
        <Route path="*" element={<SignedIn />} />
      </Routes>
    </BrowserRouter>
  );
}

/** Who is here, and which screen. */
function SignedIn() {
  const [account, setAccount] = useState<Account | null | undefined>(undefined);
  useEffect(() => {
    api.who().then(
      (here) => {
        lastAccount.keep(here);
        setAccount(here);
      },
      // Where nobody answers it is whoever was here last; who is told that they are not signed in is nobody.
      (error: unknown) => setAccount(error instanceof Problem && isAway(error) ? lastAccount.get() : null),
    );
  }, []);
  if (account === undefined) return <p className="p-6">Opening…</p>;
  const enter = (here: Account) => {
    lastAccount.keep(here);
    setAccount(here);
  };
  if (account === null) return <SignIn enter={enter} />;
  const leave = () =>
    void api.leave().then(() => {
      client.clear();
      lastAccount.keep(null);
      setAccount(null);
    });
  return (
    <Routes>
      <Route path="/" element={<JobsScreen name={account.name} leave={leave} />} />
      <Route path="/jobs/:id" element={<JobScreen account={account.name} />} />
      <Route path="/jobs/:id/field" element={<FieldScreen account={account.name} />} />
      <Route path="/jobs/:id/:stage" element={<JobScreen account={account.name} />} />
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  );
}
