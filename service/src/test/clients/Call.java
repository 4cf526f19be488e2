import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.UUID;
import marrowby.ApiClient;
import marrowby.ApiException;
import marrowby.api.BerthsApi;
import marrowby.api.BookingsApi;
import marrowby.model.BerthsPage;
import marrowby.model.GetBerthsNightlyRateParameter;
import marrowby.model.PatchBookingsByBookingIdRequest;
import marrowby.model.PostBookingsRequest;

/** A client team's code against the demo, with classes made from its reference by a generator that knows nothing of this service. */
public final class Call {

    public static void main(String[] arguments) throws Exception {
        ApiClient client = new ApiClient();
        client.updateBaseUri(arguments[0]);
        client.setRequestInterceptor(request -> request.header("Authorization", "Bearer " + arguments[1]));
        BerthsApi berths = new BerthsApi(client);
        LocalDate from = LocalDate.of(2031, 7, 1);
        LocalDate until = from.plusDays(3);
        GetBerthsNightlyRateParameter rate = new GetBerthsNightlyRateParameter().lte(new BigDecimal("25.5"));
        BerthsPage first =
                berths.getBerths(from, until, null, null, "-nightly_rate", null, null, null, null, rate, null, null, null, null, 2, null);
        check(first.getData().size() == 2, "a page of two berths");
        check(
                first.getData().get(0).getNightlyRate().compareTo(new BigDecimal("25.5")) <= 0,
                "a berth that costs no more than was asked");
        String after = first.getPage().getAfter();
        BerthsPage next =
                berths.getBerths(from, until, null, null, "-nightly_rate", null, null, null, null, rate, null, null, null, null, 2, after);
        check(!next.getData().equals(first.getData()), "the next page holds other berths");
        try {
            berths.getBerthsByBerthId(99_999_999L);
            check(false, "there is no such berth");
        } catch (ApiException e) {
            check(e.getCode() == 404 && e.getResponseBody().contains("\"code\":\"row-unknown\""), e.getResponseBody());
        }
        BookingsApi bookings = new BookingsApi(client);
        Long berth = first.getData().get(0).getId();
        var booked = bookings.postBookingsWithHttpInfo(
                new PostBookingsRequest().berthId(berth).vesselId(42L).from(from).until(until),
                UUID.randomUUID().toString());
        var made = booked.getData();
        check(booked.getStatusCode() == 201 && "requested".equals(made.getStatus().getValue()), "a booking is made");
        String tag = booked.getHeaders().get("etag").get(0);
        var changed = bookings.patchBookingsByBookingId(
                made.getId(), tag, new PatchBookingsByBookingIdRequest().note("Late arrival"), null);
        check("Late arrival".equals(changed.getNote()), "the note is changed");
        check(bookings.deleteBookings("expired", null, null, "count").getMatching() != null, "a preview counts");
        bookings.deleteBookingsByBookingId(made.getId(), null, null);
        System.out.println("all calls answered as the reference says");
    }

    private static void check(boolean holds, String what) {
        if (!holds) {
            throw new IllegalStateException(what);
        }
    }
}
