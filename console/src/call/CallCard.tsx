import { Button, Card, Flex, Form, Typography } from "antd";
import { useReducer, useState } from "react";
import { DeskError, type Module, type Operation, tryOperation } from "../api/http";
import { AnswerView } from "./AnswerView";
import { callAddress, callHeaders, curlLine, exampleInputs, formParameters, type Inputs, sortedAddress, startingInputs } from "./address";
import { callBody } from "./body";
import { callReducer, fieldErrors, idle } from "./callState";
import { FieldChooser } from "./FieldChooser";
import { FilterInputs } from "./FilterInputs";
import { ParameterInput } from "./ParameterInput";
import { RehearsalView } from "./RehearsalView";
import { readAnswer } from "./readAnswer";
import { rehearsalRequest, type RehearsalState } from "./rehearsal";

/** A form that calls an operation for real, and what came back. */
export function CallCard({ module, operation }: { module: Module; operation: Operation }) {
  const [inputs, setInputs] = useState<Inputs>(() => startingInputs(operation));
  const [call, dispatch] = useReducer(callReducer, idle);
  const address = callAddress(module.basePath, operation, inputs);
  const errors = fieldErrors(call);
  const headers = callHeaders(operation, inputs);
  const parameters = formParameters(operation);
  const body = callBody(operation, inputs);
  const [rehearsal, setRehearsal] = useState<RehearsalState>({ state: "idle" });
  const curl = curlLine(operation.method, window.location.origin, address, headers, body);

  const send = async (to: string, page: number) => {
    dispatch({ event: "called", address: to, page });
    const start = performance.now();
    try {
      const typed = body === undefined ? headers : { ...headers, "Content-Type": body.mediaType };
      const response = await fetch(to, {
        method: operation.method,
        headers: { Accept: "*/*", ...typed },
        ...(body === undefined ? {} : { body: body.text }),
      });
      const text = await response.text();
      const millis = Math.round(performance.now() - start);
      const answer = readAnswer(response.status, millis, [...response.headers], text);
      dispatch({ event: "answered", address: to, answer });
    } catch {
      dispatch({ event: "unanswered", address: to });
    }
  };

  const sort = (by: string) => {
    setInputs((all) => ({ ...all, sort: by }));
    if (call.state === "answered") {
      void send(sortedAddress(operation, call.address, by), 1);
    }
  };

  const rehearse = async () => {
    setRehearsal({ state: "running" });
    try {
      setRehearsal({ state: "done", trial: await tryOperation(rehearsalRequest(module, operation, inputs)) });
    } catch (error) {
      setRehearsal({ state: "failed", message: error instanceof DeskError ? error.message : String(error) });
    }
  };

  return (
    <div className="stack">
      <Card
        size="small"
        title="Call it"
        extra={
          parameters.some((p) => p.example !== undefined) && (
            <Button size="small" type="link" onClick={() => setInputs(exampleInputs(operation))}>
              Fill in the examples
            </Button>
          )
        }
      >
        <Form layout="vertical" onFinish={() => send(address, 1)}>
          <div className="inputs">
            {parameters.map((parameter) => (
              <ParameterInput
                key={`${parameter.in} ${parameter.name}`}
                parameter={parameter}
                value={inputs[parameter.name] ?? ""}
                error={errors[parameter.name]}
                onChange={(value) => setInputs((all) => ({ ...all, [parameter.name]: value }))}
              />
            ))}
          </div>
          <FilterInputs
            filters={operation.filters}
            inputs={inputs}
            errors={errors}
            onChange={(name, value) => setInputs((all) => ({ ...all, [name]: value }))}
          />
          <FieldChooser
            fields={operation.offers.fields}
            value={inputs["fields"] ?? ""}
            onChange={(value) => setInputs((all) => ({ ...all, fields: value }))}
          />
          <Flex gap="middle" align="center">
            {operation.changes && (
              <Button type="primary" loading={rehearsal.state === "running"} onClick={rehearse}>
                Rehearse
              </Button>
            )}
            <Button {...(operation.changes ? { danger: true } : { type: "primary" as const })} htmlType="submit">
              {operation.changes ? "Call for real" : "Call"}
            </Button>
            <Typography.Text className="curl" code copyable={{ text: curl }}>
              {curl}
            </Typography.Text>
          </Flex>
        </Form>
      </Card>
      <RehearsalView state={rehearsal} />
      <AnswerView
        call={call}
        sorting={{ sorts: operation.offers.sorts, sort: inputs["sort"] ?? "", onSort: sort }}
        operation={operation}
        onPage={send}
      />
    </div>
  );
}
