import { Empty, Flex, Input, Table, Typography } from "antd";
import { useCallback, useState } from "react";
import { readRefusedCalls, type RefusedCall } from "../api/http";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { when } from "../parts/when";

/** The calls that were refused lately, and one by the id its caller was told. */
export function RefusedTab() {
  const [request, setRequest] = useState("");
  const ask = useCallback(() => readRefusedCalls(request.trim()), [request]);
  const { remote, again } = useRemote(ask);
  return (
    <>
      <Flex gap="small" align="center" className="gap-below" wrap>
        <Input.Search
          aria-label="Request id"
          allowClear
          enterButton="Find"
          placeholder="requestId of the problem, or X-Request-Id"
          style={{ maxWidth: 460 }}
          onSearch={(asked) => {
            setRequest(asked);
            again();
          }}
        />
        <span className="quiet">Callers are told less of a wrong credential than stands here.</span>
      </Flex>
      <RemoteView remote={remote} again={again}>
        {({ calls }) => (
          <Table<RefusedCall>
            size="small"
            rowKey={(call) => `${call.at} ${call.requestId}`}
            pagination={calls.length > 25 && { pageSize: 25 }}
            dataSource={calls}
            locale={{
              emptyText: (
                <Empty
                  image={Empty.PRESENTED_IMAGE_SIMPLE}
                  description={request === "" ? "No call was refused in the last seven days." : "No refused call has this id."}
                />
              ),
            }}
            columns={[
              { title: "When", render: (_, { at }) => <span className="cell">{when(at)}</span> },
              { title: "Called", render: (_, { module, operation }) => `${module ?? "no live module"} ${operation ?? ""}` },
              { title: "By", render: (_, { who, address }) => `${who ?? "somebody unknown"}, ${address}` },
              { title: "Status", dataIndex: "status" },
              {
                title: "Why",
                render: (_, { reason, requestId }) => (
                  <>
                    {reason}{" "}
                    <Typography.Text type="secondary" copyable={{ text: requestId, tooltips: ["Copy the request's id", "Copied"] }} />
                  </>
                ),
              },
            ]}
          />
        )}
      </RemoteView>
    </>
  );
}
