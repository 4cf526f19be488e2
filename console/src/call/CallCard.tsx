import { Button, Card, Flex, Form, Typography } from "antd";
import { useReducer, useState } from "react";
import type { Module, Operation } from "../api/http";
import { AnswerView } from "./AnswerView";
import { callAddress, callHeaders, curlLine, exampleInputs, formParameters, type Inputs, startingInputs } from "./address";
import { callBody } from "./body";
import { callReducer, fieldErrors, idle } from "./callState";
import { ParameterInput } from "./ParameterInput";
import { readAnswer } from "./readAnswer";

/** A form that calls an operation for real, and what came back. */
export function CallCard({ module, operation }: { module: Module; operation: Operation }) {
  const [inputs, setInputs] = useState<Inputs>(() => startingInputs(operation));
  const [call, dispatch] = useReducer(callReducer, idle);
  const address = callAddress(module.basePath, operation, inputs);
  const errors = fieldErrors(call);
  const headers = callHeaders(operation, inputs);
  const parameters = formParameters(operation);
  const body = callBody(operation, inputs);
  const curl = curlLine(window.location.origin, address, headers, body);

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
          <Flex gap="middle" align="center">
            <Button type="primary" htmlType="submit">
              Call
            </Button>
            <Typography.Text className="curl" code copyable={{ text: curl }}>
              {curl}
            </Typography.Text>
          </Flex>
        </Form>
      </Card>
      <AnswerView call={call} onPage={send} />
    </div>
  );
}
