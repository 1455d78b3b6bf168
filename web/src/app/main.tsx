import { QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { queries } from "../api/http";
import { AnyShot } from "../parts/any-shot";
import { Shoots } from "../stations/shoots/shoots";
import { Failed } from "./failed";
import { Shell } from "./shell";
import "./styles.css";

const Bench = lazy(() => import("../stations/bench/bench"));
const Kit = lazy(() => import("../stations/kit/kit"));
const Look = lazy(() => import("../stations/look/look"));
const Rushes = lazy(() => import("../stations/rushes/rushes"));
const Log = lazy(() => import("../stations/log/log"));
const Uses = lazy(() => import("../stations/uses/uses"));
const Practice = lazy(() => import("../stations/practice/practice"));
const Card = lazy(() => import("../stations/card/card"));

const waiting = <p className="p-6 text-muted">One moment.</p>;

const router = createBrowserRouter([
  {
    element: <Shell />,
    children: [
      {
        errorElement: <Failed />,
        children: [
          { index: true, element: <Navigate to="/shoots" replace /> },
          { path: "shoots/:shootId?/:view?", element: <Shoots /> },
          { path: "bench", element: <AnyShot suffix="" /> },
          { path: "card", element: <AnyShot suffix="/card" /> },
          { path: "shots/:shotId", element: <Suspense fallback={waiting}>{<Bench />}</Suspense> },
          { path: "shots/:shotId/card", element: <Suspense fallback={waiting}>{<Card />}</Suspense> },
          { path: "look", element: <AnyShot suffix="/look" /> },
          { path: "shots/:shotId/look", element: <Suspense fallback={waiting}>{<Look />}</Suspense> },
          { path: "rushes/:clipId?", element: <Suspense fallback={waiting}>{<Rushes />}</Suspense> },
          { path: "uses/:cameraId?", element: <Suspense fallback={waiting}>{<Uses />}</Suspense> },
          { path: "practice", element: <Suspense fallback={waiting}>{<Practice />}</Suspense> },
          { path: "log/*", element: <Suspense fallback={waiting}>{<Log />}</Suspense> },
          { path: "kit/*", element: <Suspense fallback={waiting}>{<Kit />}</Suspense> },
          { path: "*", element: <p className="p-6">There is nothing here. The stations are above.</p> },
        ],
      },
    ],
  },
]);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
