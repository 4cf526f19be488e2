import { Empty, Table, Typography } from "antd";
import { Link } from "react-router";
import { readReviews, type Review } from "../api/http";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { when } from "../parts/when";
import { StateTag } from "./StateTag";

/** What waits for a second person, and what was decided. */
export function ReviewsPage() {
  const { remote, again } = useRemote(readReviews);
  return (
    <>
      <Typography.Title level={1}>Reviews</Typography.Title>
      <RemoteView remote={remote} again={again}>
        {({ reviews }) => (reviews.length === 0 ? <NothingYet /> : <ReviewsTable reviews={reviews} />)}
      </RemoteView>
    </>
  );
}

function NothingYet() {
  return (
    <Empty description="Nothing waits for a second person. A module asks for one with 'review: true' in its module.yaml.">
      <Typography.Text code copyable>
        ./tidy publish --folder FOLDER --ask-review
      </Typography.Text>
    </Empty>
  );
}

function ReviewsTable({ reviews }: { reviews: Review[] }) {
  return (
    <Table<Review>
      size="small"
      rowKey="id"
      pagination={{ pageSize: 20, hideOnSinglePage: true }}
      dataSource={reviews}
      columns={[
        {
          title: "Of",
          render: (_, { id, name, version }) => (
            <Link to={`/reviews/${id}`}>
              {name} {version}
            </Link>
          ),
        },
        { title: "State", render: (_, { state }) => <StateTag state={state} /> },
        { title: "Asked by", dataIndex: "askedBy" },
        { title: "Asked", render: (_, { askedAt }) => when(askedAt) },
        { title: "Note", dataIndex: "note" },
        { title: "Decided by", dataIndex: "decidedBy" },
        { title: "Words", dataIndex: "words" },
      ]}
    />
  );
}
