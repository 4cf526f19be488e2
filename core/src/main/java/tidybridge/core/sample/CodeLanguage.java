package tidybridge.core.sample;

import java.util.Map;
import java.util.function.UnaryOperator;

/** What a call can be copied as. Each is whole: it runs as it stands, with nothing but what comes with the language. */
public enum CodeLanguage {
    CURL("curl") {
        @Override
        public String write(SampleCall call, String origin) {
            return CurlCode.write(call, origin);
        }
    },
    HTTP("HTTP") {
        @Override
        public String write(SampleCall call, String origin) {
            StringBuilder code = new StringBuilder(call.method() + " " + origin + call.path() + " HTTP/1.1\n");
            if (call.secret()) {
                code.append("Authorization: Bearer YOUR-KEY\n");
            }
            call.headers()
                    .forEach((name, value) ->
                            code.append(name).append(": ").append(value).append('\n'));
            return code + (call.body() == null ? "" : "\n" + call.body() + "\n");
        }
    },
    JAVA("Java") {
        @Override
        public String write(SampleCall call, String origin) {
            return """
                    import java.net.URI;
                    import java.net.http.HttpClient;
                    import java.net.http.HttpRequest;
                    import java.net.http.HttpResponse;

                    class Call {
                        public static void main(String[] args) throws Exception {
                            HttpRequest request = HttpRequest.newBuilder(URI.create(%s))
                    %s                .method(%s, %s)
                                    .build();
                            HttpResponse<String> response =
                                    HttpClient.newHttpClient().send(request, HttpResponse.BodyHandlers.ofString());
                            System.out.println(response.statusCode() + " " + response.body());
                        }
                    }
                    """.formatted(
                            Literals.quoted(origin + call.path()),
                            fields(
                                    call,
                                    "                .header(%s, %s)\n",
                                    "\"Bearer \" + System.getenv(\"BRIDGE_KEY\")",
                                    Literals::quoted),
                            Literals.quoted(call.method()),
                            call.body() == null
                                    ? "HttpRequest.BodyPublishers.noBody()"
                                    : "HttpRequest.BodyPublishers.ofString("
                                            + Literals.ofJava(call.body(), " ".repeat(24)) + ")");
        }
    },
    JAVASCRIPT("JavaScript, TypeScript") {
        @Override
        public String write(SampleCall call, String origin) {
            String headers = fields(call, "    %s: %s,\n", "`Bearer ${process.env.BRIDGE_KEY}`", Literals::quoted);
            String body = call.body();
            boolean json = call.headers().getOrDefault("Content-Type", "").endsWith("json");
            return "const response = await fetch(" + Literals.quoted(origin + call.path()) + ", {\n"
                    + "  method: " + Literals.quoted(call.method()) + ",\n"
                    + (headers.isEmpty() ? "" : "  headers: {\n" + headers + "  },\n")
                    + (body == null
                            ? ""
                            : "  body: "
                                    + (json
                                            ? "JSON.stringify(" + body.replace("\n", "\n  ") + ")"
                                            : Literals.quoted(body))
                                    + ",\n")
                    + "});\nconsole.log(response.status, await response.text());\n";
        }
    },
    PYTHON("Python") {
        @Override
        public String write(SampleCall call, String origin) {
            String headers =
                    fields(call, "        %s: %s,\n", "\"Bearer \" + os.environ[\"BRIDGE_KEY\"]", Literals::quoted);
            return (call.secret() ? "import os\n" : "")
                    + """
                    import urllib.error
                    import urllib.request

                    request = urllib.request.Request(
                        %s,
                        method=%s,
                    %s%s)
                    try:
                        with urllib.request.urlopen(request) as response:
                            print(response.status, response.read().decode())
                    except urllib.error.HTTPError as error:
                        print(error.code, error.read().decode())
                    """.formatted(
                            Literals.quoted(origin + call.path()),
                            Literals.quoted(call.method()),
                            headers.isEmpty() ? "" : "    headers={\n" + headers + "    },\n",
                            call.body() == null ? "" : "    data=" + Literals.ofPython(call.body()) + ".encode(),\n");
        }
    },
    CSHARP("C#") {
        @Override
        public String write(SampleCall call, String origin) {
            String type = call.headers().getOrDefault("Content-Type", "");
            SampleCall others = call.without("Content-Type");
            return """
                    using var client = new HttpClient();
                    using var request = new HttpRequestMessage(new HttpMethod(%s), %s);
                    %s%susing var response = await client.SendAsync(request);
                    Console.WriteLine((int)response.StatusCode + " " + await response.Content.ReadAsStringAsync());
                    """.formatted(
                            Literals.quoted(call.method()),
                            Literals.quoted(origin + call.path()),
                            fields(
                                    others,
                                    "request.Headers.TryAddWithoutValidation(%s, %s);\n",
                                    "\"Bearer \" + Environment.GetEnvironmentVariable(\"BRIDGE_KEY\")",
                                    Literals::quoted),
                            call.body() == null
                                    ? ""
                                    : "request.Content = new StringContent(" + Literals.ofCSharp(call.body(), "    ")
                                            + ", System.Text.Encoding.UTF8, " + Literals.quoted(type) + ");\n");
        }
    },
    GO("Go") {
        @Override
        public String write(SampleCall call, String origin) {
            return """
                    package main

                    import (
                    	"fmt"
                    	"io"
                    	"net/http"
                    %s%s)

                    func main() {
                    	request, err := http.NewRequest(%s, %s, %s)
                    	if err != nil {
                    		panic(err)
                    	}
                    %s	response, err := http.DefaultClient.Do(request)
                    	if err != nil {
                    		panic(err)
                    	}
                    	defer response.Body.Close()
                    	body, err := io.ReadAll(response.Body)
                    	if err != nil {
                    		panic(err)
                    	}
                    	fmt.Println(response.StatusCode, string(body))
                    }
                    """.formatted(
                            call.secret() ? "\t\"os\"\n" : "",
                            call.body() == null ? "" : "\t\"strings\"\n",
                            Literals.quoted(call.method()),
                            Literals.quoted(origin + call.path()),
                            call.body() == null ? "nil" : "strings.NewReader(" + Literals.ofGo(call.body()) + ")",
                            fields(
                                    call,
                                    "\trequest.Header.Set(%s, %s)\n",
                                    "\"Bearer \"+os.Getenv(\"BRIDGE_KEY\")",
                                    Literals::quoted));
        }
    },
    PHP("PHP") {
        @Override
        public String write(SampleCall call, String origin) {
            StringBuilder headers = new StringBuilder();
            if (call.secret()) {
                headers.append("        'Authorization: Bearer ' . getenv('BRIDGE_KEY'),\n");
            }
            call.headers()
                    .forEach((name, value) -> headers.append("        ")
                            .append(Literals.ofPhp(name + ": " + value))
                            .append(",\n"));
            return """
                    <?php
                    $context = stream_context_create(['http' => [
                        'method' => %s,
                        'header' => [
                    %s    ],
                    %s    'ignore_errors' => true,
                    ]]);
                    $body = file_get_contents(%s, false, $context);
                    echo $http_response_header[0], "\\n", $body, "\\n";
                    """.formatted(
                            Literals.ofPhp(call.method()),
                            headers,
                            call.body() == null ? "" : "    'content' => " + Literals.ofPhp(call.body()) + ",\n",
                            Literals.ofPhp(origin + call.path()));
        }
    },
    KOTLIN("Kotlin") {
        @Override
        public String write(SampleCall call, String origin) {
            return """
                    import java.net.URI
                    import java.net.http.HttpClient
                    import java.net.http.HttpRequest
                    import java.net.http.HttpResponse

                    fun main() {
                        val request = HttpRequest.newBuilder(URI.create(%s))
                    %s        .method(%s, %s)
                            .build()
                        val response = HttpClient.newHttpClient().send(request, HttpResponse.BodyHandlers.ofString())
                        println("${response.statusCode()} ${response.body()}")
                    }
                    """.formatted(
                            Literals.ofKotlin(origin + call.path()),
                            fields(
                                    call,
                                    "        .header(%s, %s)\n",
                                    "\"Bearer \" + System.getenv(\"BRIDGE_KEY\")",
                                    Literals::ofKotlin),
                            Literals.ofKotlin(call.method()),
                            call.body() == null
                                    ? "HttpRequest.BodyPublishers.noBody()"
                                    : "HttpRequest.BodyPublishers.ofString(" + Literals.ofKotlin(call.body()) + ")");
        }
    };

    private final String label;

    CodeLanguage(String label) {
        this.label = label;
    }

    /** What people call it. */
    public String label() {
        return label;
    }

    /**
     * Writes a call. A credential is taken from the environment, as {@code BRIDGE_KEY}.
     *
     * @param origin where the service is
     */
    public abstract String write(SampleCall call, String origin);

    /** The header fields of a call, each in its own line. */
    private static String fields(SampleCall call, String line, String bearer, UnaryOperator<String> quoted) {
        StringBuilder fields = new StringBuilder();
        if (call.secret()) {
            fields.append(line.formatted(quoted.apply("Authorization"), bearer));
        }
        for (Map.Entry<String, String> header : call.headers().entrySet()) {
            fields.append(line.formatted(quoted.apply(header.getKey()), quoted.apply(header.getValue())));
        }
        return fields.toString();
    }
}
