// A client team's code against the demo, with types made from its reference: whatever the reference says wrongly does not compile.
import createClient from "openapi-fetch";
import type { components, paths } from "./generated/moorings.js";

// the operations answer in other formats too
const client = createClient<paths, "application/json" | "application/problem+json">({ baseUrl: process.argv[2], headers: { Authorization: `Bearer ${process.argv[3]}` } });

function check(holds: boolean, what: string): void {
  if (!holds) {
    throw new Error(what);
  }
}

const first = await client.GET("/berths", { params: { query: { from: "2031-05-01", until: "2031-05-04", limit: 2 } } });
const cheap = await client.GET("/berths", {
  params: { query: { from: "2031-05-01", until: "2031-05-04", nightly_rate: { lte: 20 }, has_power: { eq: true }, sort: "-nightly_rate" } },
});
check(
  (cheap.data?.data.length ?? 0) > 0 && cheap.data!.data.every((berth) => (berth.nightly_rate ?? 99) <= 20 && berth.has_power),
  "only berths that cost no more than was asked",
);
const berths: components["schemas"]["BerthsRow"][] = first.data?.data ?? [];
check(berths.length === 2, "a page of two berths");
const more = await client.GET("/berths", {
  params: { query: { from: "2031-05-01", until: "2031-05-04", limit: 2, after: first.data?.page.after } },
});
check(more.data?.data[0]?.id !== berths[0]?.id, "the next page holds other berths");

const wrong = await client.GET("/berths/{berthId}", { params: { path: { berthId: 99999999 } } });
const problem: components["schemas"]["Problem"] | undefined = wrong.error;
check(problem?.code === "row-unknown" && problem.requestId !== undefined, "a problem has a code and a request id");

const booked = await client.POST("/bookings", {
  params: { header: { "Idempotency-Key": crypto.randomUUID() } },
  body: { berthId: berths[0]!.id!, vesselId: 42, from: "2031-05-01", until: "2031-05-04" },
});
check(booked.response.status === 201, `a booking is made: ${JSON.stringify(booked.error)}`);
const state: "requested" | "confirmed" | "cancelled" | "expired" | undefined = booked.data?.status;
check(state === "requested", `a new booking is requested, not ${state}`);
const tag = booked.response.headers.get("ETag");
check(tag !== null, "what was made tells its state");

const changed = await client.PATCH("/bookings/{bookingId}", {
  params: { path: { bookingId: booked.data!.id }, header: { "If-Match": tag! } },
  body: { note: "Late arrival" },
});
check(changed.data?.note === "Late arrival", `the note is changed: ${JSON.stringify(changed.error)}`);

const preview = await client.DELETE("/bookings", { params: { query: { status: "expired", preview: "count" } } });
check(typeof preview.data?.matching === "number", "a preview counts");

const ended = await client.DELETE("/bookings/{bookingId}", { params: { path: { bookingId: booked.data!.id } } });
check(ended.response.status === 204, "a booking is cancelled");
const again = await client.DELETE("/bookings/{bookingId}", { params: { path: { bookingId: booked.data!.id } } });
check(again.error?.code === "ended", `a guard has a code of its own: ${JSON.stringify(again.error)}`);
console.log("all calls answered as the reference says");
