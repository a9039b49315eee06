using System.Globalization;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;

namespace Walkdown.Server.Tests;

/// <summary>What is kept is right: through the real server, on a real file, as a page or a careless person would ask.</summary>
public sealed class TrustApiTests(Site site) : IClassFixture<Site>
{
    private string Job => $"/api/jobs/{site.JobId}";

    private static JsonNode Of(JsonNode answer, string rowId) =>
        answer["card"]!["rows"]!.AsArray().Single(r => r!["id"]!.ToString() == rowId)!;

    private static string Id(JsonNode answer, string check, string part = "", string under = "any") =>
        Site.Row(answer, check, part, under)["id"]!.ToString();

    private Task<(int Status, JsonNode Body)> Send(string label, string what, object body) =>
        site.Post($"/api/cards/{site.Stops[label]}/{what}", site.Entry(body));

    private async Task<JsonNode> Typed(
        string label,
        string row,
        string text,
        string? instrument = "Camera tester 1",
        DateTimeOffset? at = null
    )
    {
        var entry = site.Entry(
            new
            {
                row,
                source = "typed",
                text,
                instrumentId = instrument is null ? null : site.Instruments[instrument],
            }
        );
        if (at is { } moment)
            entry["takenAt"] = moment.ToString("O");
        var (status, answer) = await site.Post($"/api/cards/{site.Stops[label]}/readings", entry);
        Assert.True(status == 200, answer.ToJsonString());
        return answer;
    }

    private static JsonNode Newest(JsonNode row) => row["attempts"]!.AsArray().Last()!;

    [Fact]
    public async Task WhatTheTesterSaidIsWhatIsKeptWhateverAPageSaysOfIt()
    {
        var row = Id(await site.Card("CC-01"), "cable.length");
        var (_, heard) = await Send("CC-01", "tester", new { row });
        var said = heard["rows"]!.AsArray().Single(r => r!["row"]!.ToString() == row)!["value"]!["value"]!.GetValue<double>();
        Assert.Equal(site.Instruments["Camera tester 1"], heard["instrumentId"]!.ToString());

        // Another value, another moment and another instrument are sent along: the server's own hold.
        var entry = site.Entry(
            new
            {
                row,
                source = "typed",
                value = new
                {
                    kind = "number",
                    value = 12.5,
                    unit = "metre",
                },
                observationId = heard["observationId"]!.ToString(),
                instrumentId = site.Instruments["Old meter"],
            }
        );
        entry["takenAt"] = DateTimeOffset.UtcNow.AddHours(-2).ToString("O");
        var (status, kept) = await site.Post($"/api/cards/{site.Stops["CC-01"]}/readings", entry);
        Assert.True(status == 200, kept.ToJsonString());
        var attempt = Newest(Of(kept, row));
        Assert.Equal((said, "tester"), (attempt["value"]!["value"]!.GetValue<double>(), attempt["source"]!.ToString()));
        Assert.Equal(site.Instruments["Camera tester 1"], attempt["instrumentId"]!.ToString());
        Assert.True(
            DateTimeOffset.Parse(attempt["takenAt"]!.ToString(), CultureInfo.InvariantCulture) > DateTimeOffset.UtcNow.AddMinutes(-5)
        );

        // What cites nothing is typed, whatever it calls itself; an answer of another Card or another row is none.
        var (_, typed) = await Send(
            "CC-01",
            "readings",
            new
            {
                row,
                source = "tester",
                text = "40",
            }
        );
        Assert.Equal("typed", Newest(Of(typed, row))["source"]!.ToString());
        foreach (
            var (label, about, observation) in new[]
            {
                ("CC-01", row, Guid.NewGuid().ToString()),
                ("CC-02", Id(await site.Card("CC-02"), "cable.length"), heard["observationId"]!.ToString()),
                ("CC-01", Id(await site.Card("CC-01"), "cable.label"), heard["observationId"]!.ToString()),
            }
        )
            Assert.Equal(
                (422, "problem.unknown-observation"),
                await Send(
                    label,
                    "readings",
                    new
                    {
                        row = about,
                        source = "tester",
                        observationId = observation,
                    }
                )
                    is var answer
                    ? (answer.Status, answer.Body["code"]!.ToString())
                    : default
            );
    }

    [Fact]
    public async Task AMeterThatDoesNotCountIsToldBeforeThePressAndWhoIsGoneWritesNothing()
    {
        var row = Id(await site.Card("CC-02"), "cable.length");
        var old = site.Instruments["Old meter"];
        var (_, preview) = await site.Post(
            $"/api/cards/{site.Stops["CC-02"]}/preview",
            new
            {
                row,
                text = "40",
                instrumentId = old,
            }
        );
        Assert.Equal("preview.will-not-count", preview["willNotCount"]!["code"]!.ToString());
        var (_, sound) = await site.Post(
            $"/api/cards/{site.Stops["CC-02"]}/preview",
            new
            {
                row,
                text = "40",
                instrumentId = site.Instruments["Camera tester 1"],
            }
        );
        Assert.Null(sound["willNotCount"]);
        var kept = Of(await Typed("CC-02", row, "40", "Old meter"), row);
        Assert.Equal(("outOfCalibration", null), (Newest(kept)["standing"]!.ToString(), kept["counts"]?.ToString()));

        var gone = Guid.CreateVersion7().ToString();
        var person = new
        {
            id = gone,
            name = "Tom Reeve",
            role = "technician",
            mayWitness = false,
        };
        Assert.Equal(200, (await site.Post($"{Job}/people", person)).Status);
        async Task<(int, string?)> By(string who)
        {
            var entry = site.Entry(
                new
                {
                    row,
                    source = "typed",
                    text = "41",
                }
            );
            entry["by"] = who;
            var (status, answer) = await site.Post($"/api/cards/{site.Stops["CC-02"]}/readings", entry);
            return (status, answer["code"]?.ToString());
        }

        Assert.Equal((200, null), await By(gone));
        using (
            var left = await System.Net.Http.Json.HttpClientJsonExtensions.PutAsJsonAsync(
                site.Http,
                $"{Job}/people/{gone}",
                new
                {
                    name = "Tom Reeve",
                    role = "technician",
                    mayWitness = false,
                    left = true,
                }
            )
        )
            Assert.True(left.IsSuccessStatusCode);
        Assert.Equal(422, (await By(gone)).Item1);
        Assert.Equal((422, "problem.unknown-person"), await By(Guid.NewGuid().ToString()));
    }

    [Fact]
    public async Task AHoldHoldsInTheRecordInTheWordsOfTheScreen()
    {
        var (label, held) = await Held();
        var (status, refused) = await Send(
            label,
            "readings",
            new
            {
                row = held["id"]!.ToString(),
                source = "typed",
                text = "12",
            }
        );
        Assert.Equal((422, "hold.until"), (status, refused["code"]!.ToString()));
        Assert.StartsWith("Hold: ", refused["detail"]!.ToString());

        async Task<(string, JsonNode)> Held()
        {
            foreach (var stop in site.Stops.Keys)
                if (
                    (await site.Card(stop))["card"]!["rows"]!
                        .AsArray()
                        .FirstOrDefault(r => r!["heldBy"]!.AsArray().Count > 0 && r["check"]!["entry"]!.ToString() == "number") is
                    { } row
                )
                    return (stop, row);
            throw new InvalidOperationException("The demo site has no hold.");
        }
    }

    [Fact]
    public async Task WhatNoRuleJudgesWaitsForAPersonWithANameAndForThisReadingOnly()
    {
        var (_, added) = await site.Post(
            $"{Job}/register/devices",
            site.Entry(
                new
                {
                    values = new
                    {
                        label = "NJ-1",
                        kind = "bullet",
                        area = "Gate",
                        cabinet = "K1",
                        port = "44",
                        length_m = "30",
                    },
                    why = "client asked for it",
                }
            )
        );
        site.Stops["NJ-1"] = added["deviceId"]!.ToString();
        var row = (await site.Card("NJ-1"))["card"]!["rows"]!.AsArray().First(r => r!["check"]!["id"]!.ToString() == "before.box-session")![
            "id"
        ]!.ToString();
        var read = Of(await Typed("NJ-1", row, "31", null), row);
        Assert.Equal(("notJudged", true), (read["state"]!.ToString(), read["isForTheEye"]!.GetValue<bool>()));
        Assert.Contains(read["because"]!.AsArray(), b => b!["code"]!.ToString() == "missing.model-box");

        async Task<string> Refused(object ruling)
        {
            var (status, answer) = await Send("NJ-1", "rulings", ruling);
            Assert.Equal(422, status);
            return answer["code"]!.ToString();
        }

        Assert.Equal(
            "problem.who-judges",
            await Refused(
                new
                {
                    row,
                    says = "in",
                    ruledBy = " ",
                    reason = "level by eye",
                }
            )
        );
        Assert.Equal(
            "problem.reason-missing",
            await Refused(
                new
                {
                    row,
                    says = "in",
                    ruledBy = "Ina Solberg",
                    reason = "",
                }
            )
        );
        Assert.Equal(
            "problem.nothing-to-explain",
            await Refused(
                new
                {
                    row,
                    says = "explained",
                    ruledBy = "Ina Solberg",
                    reason = "x",
                }
            )
        );
        var length = Id(await site.Card("NJ-1"), "cable.length");
        await Typed("NJ-1", length, "30");
        Assert.Equal(
            "problem.judged-by-rule",
            await Refused(
                new
                {
                    row = length,
                    says = "in",
                    ruledBy = "Ina Solberg",
                    reason = "x",
                }
            )
        );

        var judged = Of(
            await site.Add(
                "NJ-1",
                "rulings",
                new
                {
                    row,
                    says = "in",
                    ruledBy = "Ina Solberg",
                    reason = "level by eye",
                }
            ),
            row
        );
        Assert.Equal(("in", "Ina Solberg"), (judged["state"]!.ToString(), judged["ruling"]!["ruledBy"]!.ToString()));
        // Somebody who looks again may say otherwise; and a new reading is a new question.
        var again = Of(
            await site.Add(
                "NJ-1",
                "rulings",
                new
                {
                    row,
                    says = "out",
                    ruledBy = "Marek Dune",
                    reason = "it droops",
                }
            ),
            row
        );
        Assert.Equal("out", again["state"]!.ToString());
        Assert.Equal("notJudged", Of(await Typed("NJ-1", row, "30", null), row)["state"]!.ToString());
    }

    [Fact]
    public async Task AReadingThatIsInAndStillWrongIsSaidAndExplainedByName()
    {
        var row = Id(await site.Card("CC-04"), "power.volts-at-device", "", "infraredOff");
        var read = Of(await Typed("CC-04", row, "45"), row);
        Assert.Equal(("in", true), (read["state"]!.ToString(), read["isUnexplained"]!.GetValue<bool>()));
        Assert.Equal(["unexpected.reads", "unexpected.loop"], read["unexpected"]!.AsArray().Take(2).Select(m => m!["code"]!.ToString()));
        Assert.Contains(
            (await site.Card("CC-04"))["card"]!["verdict"]!["because"]!.AsArray(),
            b => b!["code"]!.ToString() == "verdict.unexpected.one"
        );
        var trace = await site.Get($"/api/cards/{site.Stops["CC-04"]}/trace?row={Uri.EscapeDataString(row)}");
        var steps = trace["trace"]!["steps"]!.AsArray().Select(s => s!["what"]!["code"]!.ToString()).ToList();
        Assert.Contains("trace.between", steps);
        Assert.Contains("unexpected.reads", steps);

        var explained = Of(
            await site.Add(
                "CC-04",
                "rulings",
                new
                {
                    row,
                    says = "explained",
                    ruledBy = "Ina Solberg",
                    reason = "long test lead",
                }
            ),
            row
        );
        Assert.Equal(("in", false), (explained["state"]!.ToString(), explained["isUnexplained"]!.GetValue<bool>()));
        Assert.False(Of(await Typed("CC-04", row, "52.4"), row)["unexpected"]!.AsArray().Any());
    }

    [Fact]
    public async Task AFaultEndsByARetestOrByAWordAndWorkGoesToTheOneThatWasChosen()
    {
        var row = Id(await site.Card("CC-05"), "cable.length");
        await Typed("CC-05", row, "400");
        var fault = Guid.CreateVersion7().ToString();
        async Task<JsonNode> Raise(string id, string about)
        {
            var (status, answer) = await site.Post(
                $"/api/cards/{site.Stops["CC-05"]}/faults",
                site.Entry(
                    new
                    {
                        row = about,
                        title = "far too long",
                        severity = "major",
                    },
                    id
                )
            );
            Assert.True(status == 200, answer.ToJsonString());
            return answer;
        }

        JsonNode Fault(JsonNode answer, string id) =>
            answer["card"]!["faults"]!.AsArray().Single(f => f!["fault"]!["id"]!.ToString() == id)!;
        await Raise(fault, row);
        var other = Guid.CreateVersion7().ToString();
        var map = Id(await site.Card("CC-05"), "cable.wire-map");
        await Raise(other, map);

        // While it is out, no word ends it.
        Assert.Equal(
            "problem.fault-still-out",
            (await Send("CC-05", $"faults/{fault}/end", new { reason = "looks fine" })).Body["code"]!.ToString()
        );
        Assert.Equal(
            "problem.unknown-fault",
            (await Send("CC-05", $"faults/{Guid.NewGuid()}/end", new { reason = "x" })).Body["code"]!.ToString()
        );

        // Work for no Fault is a repair of none; work for the chosen one is that one's.
        var run = (await site.Card("CC-05"))["place"]!["runs"]![0]!["id"]!.ToString();
        var none = await site.Add(
            "CC-05",
            "acts",
            new
            {
                kind = "cable-replaced",
                runId = run,
                faultId = (string?)null,
            }
        );
        Assert.All(new[] { fault, other }, id => Assert.Empty(Fault(none, id)["repairs"]!.AsArray()));
        var chosen = await site.Add(
            "CC-05",
            "acts",
            new
            {
                kind = "cable-replaced",
                runId = run,
                faultId = fault,
            }
        );
        Assert.Equal((1, 0), (Fault(chosen, fault)["repairs"]!.AsArray().Count, Fault(chosen, other)["repairs"]!.AsArray().Count));

        // The retest is in: closed by it. The other one's row is not applicable any more: a word ends it, and that is what is on record.
        var planned = (await site.Card("CC-05"))["place"]!["runs"]![0]!["plannedMetres"]!.GetValue<double>();
        var retest = await Typed("CC-05", row, planned.ToString(CultureInfo.InvariantCulture));
        Assert.False(Fault(retest, fault)["open"]!.GetValue<bool>());
        Assert.Null(Fault(retest, fault)["ended"]);
        await site.Add("CC-05", "exemptions", new { row = map, reason = "no tester for this connector" });
        Assert.Equal("problem.reason-missing", (await Send("CC-05", $"faults/{other}/end", new { reason = " " })).Body["code"]!.ToString());
        var ended = await site.Add("CC-05", $"faults/{other}/end", new { reason = "seen with the client" });
        Assert.Equal("seen with the client", Fault(ended, other)["ended"]!["reason"]!.ToString());
        Assert.Equal(
            "problem.fault-ended",
            (await Send("CC-05", $"faults/{other}/end", new { reason = "again" })).Body["code"]!.ToString()
        );
    }

    /// <summary>Every door that asks who writes, not the Card's alone.</summary>
    [Fact]
    public async Task WhoHasLeftTheJobWritesNothingAtAnyDoor()
    {
        var gone = Guid.NewGuid().ToString();
        var person = new
        {
            id = gone,
            name = "Tove Lind",
            role = "technician",
            mayWitness = false,
        };
        Assert.Equal(200, (await site.Post($"{Job}/people", person)).Status);
        using (
            var left = await site.Http.PutAsync(
                $"{Job}/people/{gone}",
                System.Net.Http.Json.JsonContent.Create(
                    new
                    {
                        name = "Tove Lind",
                        role = "technician",
                        mayWitness = false,
                        left = true,
                    }
                )
            )
        )
            Assert.True(left.IsSuccessStatusCode);
        var device = site.Stops["CC-02"];
        var row = Id(await site.Card("CC-02"), "cable.length");
        var settings = (await site.Get($"{Job}/practice"))["settings"]!;
        var power = await site.Get($"{Job}/power");
        var source = power["switches"]!.AsArray().First()!;
        var meter = (await site.Get($"{Job}/kit"))["instruments"]!.AsArray().First(i => i!["name"]!.ToString() == "Camera tester 1")!;
        var handover = await site.Get($"{Job}/handover");
        var doors = new (string Path, object Body)[]
        {
            (
                $"/api/cards/{device}/readings",
                new
                {
                    row,
                    source = "typed",
                    text = "40",
                }
            ),
            ($"/api/cards/{device}/notes", new { text = "x" }),
            ($"/api/cards/{device}/acts", new { kind = "unit-swapped", newSerial = "X-1" }),
            (
                $"/api/cards/{device}/blocks",
                new
                {
                    reason = "x",
                    setAside = false,
                    blockedBy = "y",
                }
            ),
            ($"/api/cards/{device}/built", new { cells = new[] { new { field = "height", text = "3" } }, why = "x" }),
            (
                $"{Job}/register/edits",
                new
                {
                    edits = new[]
                    {
                        new
                        {
                            deviceId = device,
                            field = "height",
                            text = "3",
                        },
                    },
                    why = "x",
                }
            ),
            ($"{Job}/register/devices", new { values = new { label = "ZZ-1", kind = "bullet" }, why = "x" }),
            (
                $"{Job}/marks",
                new
                {
                    kind = "setAside",
                    deviceIds = new[] { device },
                    reason = "x",
                }
            ),
            ($"{Job}/practice", new { settings, why = "x" }),
            ($"{Job}/catalogue", new { own = new { }, why = "x" }),
            (
                $"{Job}/instruments/{meter["id"]}/checks",
                new
                {
                    unit = "metre",
                    reference = 10,
                    reading = 10,
                }
            ),
            (
                $"{Job}/instruments",
                new
                {
                    name = "Other",
                    serial = "O-1",
                    kind = meter["kind"]!.ToString(),
                    certificate = "",
                    calibratedOn = (string?)null,
                    calibrationDue = (string?)null,
                    functions = meter["functions"],
                    retired = false,
                }
            ),
            (
                $"{Job}/handover/revisions",
                new
                {
                    deviceId = (string?)null,
                    follows = handover["newest"],
                    sequence = handover["sequence"],
                    signatures = Array.Empty<object>(),
                    reservations = "",
                    languages = new[] { "en" },
                    shown = handover["shown"],
                }
            ),
        };
        foreach (var (path, body) in doors)
        {
            var entry = site.Entry(body);
            entry["by"] = gone;
            var (status, answer) = await site.Post(path, entry);
            Assert.True((422, "problem.person-left") == (status, answer["code"]?.ToString()), $"{path}: {status} {answer.ToJsonString()}");
        }
        using var bitmap = new SkiaSharp.SKBitmap(320, 240);
        using var data = bitmap.Encode(SkiaSharp.SKEncodedImageFormat.Png, 90);
        using var picture = await site.Http.PostAsync(
            $"/api/cards/{device}/pictures?id={Guid.NewGuid()}&by={gone}",
            new ByteArrayContent(data.ToArray()) { Headers = { ContentType = new("application/octet-stream") } }
        );
        var told = await picture.Content.ReadAsStringAsync();
        Assert.True(told.Contains("problem.person-left"), told);
        using var feed = await site.Http.PutAsync(
            $"{Job}/power/{source["id"]}",
            System.Net.Http.Json.JsonContent.Create(
                new
                {
                    figures = source["figures"],
                    by = gone,
                    why = "x",
                }
            )
        );
        Assert.Contains("had left the job", await feed.Content.ReadAsStringAsync());
    }

    /// <summary>A mistyped name in the company's own catalogue is told: passed over in silence, the Check would ask for less than was
    /// meant.</summary>
    [Theory]
    [InlineData("{\"kind\":[]}")]
    [InlineData("{\"kinds\":[{\"id\":\"k\",\"features\":[],\"powerclass5\":3}]}")]
    [InlineData(
        "{\"checks\":[{\"id\":\"own.x\",\"version\":1,\"section\":\"power\",\"leg\":\"power\","
            + "\"entry\":\"yesNo\",\"per\":\"run\",\"judge\":\"yes-no\",\"requird\":true}]}"
    )]
    public async Task AMistypedNameInTheOwnCatalogueIsTold(string own)
    {
        foreach (var door in new[] { "catalogue/impact", "catalogue" })
        {
            var body = site.Entry(new { own = JsonNode.Parse(own), why = "x" });
            var (status, answer) = await site.Post($"{Job}/{door}", body);
            Assert.True((400, "problem.unreadable") == (status, answer["code"]?.ToString()), $"{door}: {status} {answer.ToJsonString()}");
        }
    }

    [Fact]
    public async Task AReadingBelongsToTheUnitThatHungThereWhenItWasTaken()
    {
        var row = Id(await site.Card("CC-06"), "power.volts-at-device", "", "infraredOff");
        var before = DateTimeOffset.UtcNow.AddMinutes(-1);
        var swap = site.Entry(new { kind = "unit-swapped", newSerial = "NEW-77" });
        Assert.Equal(200, (await site.Post($"/api/cards/{site.Stops["CC-06"]}/acts", swap)).Status);
        // Sent late from a device without a network: it is of the unit that is gone, and does not count for the new one.
        var late = Of(await Typed("CC-06", row, "52.5", at: before), row);
        Assert.Equal(("unitGone", null), (Newest(late)["standing"]!.ToString(), late["counts"]?.ToString()));
        var now = Of(await Typed("CC-06", row, "52.4"), row);
        Assert.NotNull(now["counts"]);
        Assert.Equal(
            "counts",
            now["attempts"]!.AsArray().Single(a => a!["readingId"]!.ToString() == now["counts"]!.ToString())!["standing"]!.ToString()
        );
    }

    [Fact]
    public async Task WhatWasDroppedInAndWhatWasDamagedIsSettledAtTheStartAndOneRowSpoilsOneRow()
    {
        var first = new Site();
        var rows = new Dictionary<string, string>();
        foreach (var label in new[] { "CC-01", "CC-02" })
        {
            rows[label] = Id(await first.Card(label), "cable.length");
            var (status, _) = await first.Post(
                $"/api/cards/{first.Stops[label]}/readings",
                first.Entry(
                    new
                    {
                        row = rows[label],
                        source = "typed",
                        text = "70",
                    }
                )
            );
            Assert.Equal(200, status);
        }

        // No second server on the same folder.
        Assert.ThrowsAny<Exception>(() => Site.On(first.Data));
        Assert.Equal("in", Of(await first.Card("CC-02"), rows["CC-02"])["state"]!.ToString());
        first.Stop();

        // One value that no program wrote; a limit put into the catalogue by hand; an own catalogue that was cut off by a pulled plug.
        using (var db = new SqliteConnection($"Data Source={Path.Combine(first.Data, "walkdown.db")};Pooling=False"))
        {
            db.Open();
            using var names = db.CreateCommand();
            names.CommandText =
                "SELECT group_concat('DROP TRIGGER \"' || name || '\";', ' ') FROM sqlite_master WHERE type='trigger' "
                + "AND tbl_name='Readings'";
            using var guards = db.CreateCommand();
            guards.CommandText = (string)names.ExecuteScalar()!;
            guards.ExecuteNonQuery();
            using var damage = db.CreateCommand();
            damage.CommandText = "UPDATE Readings SET ValueJson='{\"kind\":\"numb' WHERE DeviceId=$device";
            damage.Parameters.AddWithValue("$device", Guid.Parse(first.Stops["CC-01"]).ToByteArray(bigEndian: true));
            Assert.Equal(1, damage.ExecuteNonQuery());
            // What can be made anew is; a day that is none is no calibration.
            damage.CommandText = "UPDATE Cards SET Verdict='Splendid' WHERE DeviceId=(SELECT min(DeviceId) FROM Cards)";
            Assert.Equal(1, damage.ExecuteNonQuery());
            damage.CommandText = "UPDATE Cards SET LegsJson='[\"oh' WHERE DeviceId=(SELECT max(DeviceId) FROM Cards)";
            Assert.Equal(1, damage.ExecuteNonQuery());
            damage.CommandText = "UPDATE Instruments SET CalibratedOn='last spring', CalibrationDue='{' WHERE Name='Cable meter 2'";
            Assert.Equal(1, damage.ExecuteNonQuery());
        }
        await File.WriteAllTextAsync(
            Path.Combine(first.Data, "catalogue", "tight.json"),
            """
            { "overrides": true, "figures": [
              { "id": "agree.length-percent", "value": 0.01, "source": "the company's own" },
              { "id": "agree.length-metres", "value": 0.01, "source": "the company's own" }] }
            """
        );
        await File.WriteAllTextAsync(Path.Combine(first.Data, "catalogue", "own.json"), "{ \"overrides\": tr");
        using var second = Site.On(first.Data);
        Assert.Equal(200, (int)(await second.Http.GetAsync("/healthz")).StatusCode);
        var damaged = Of(await second.Card("CC-01"), rows["CC-01"]);
        Assert.Equal(("notJudged", "because.unreadable"), (damaged["state"]!.ToString(), damaged["because"]![0]!["code"]!.ToString()));
        // The Walk says what the new limit gives, before anybody has opened the Card.
        var walk = (await second.Get($"/api/jobs/{second.JobId}/walk"))["areas"]!.AsArray().SelectMany(x => x!["stops"]!.AsArray());
        Assert.Equal("refused", walk.Single(s => s!["label"]!.ToString() == "CC-02")!["verdict"]!.ToString());
        Assert.Equal(first.Stops.Count, second.Stops.Count);
        var meter = (await second.Get($"/api/jobs/{second.JobId}/kit"))["instruments"]!
            .AsArray()
            .Single(i => i!["name"]!.ToString() == "Cable meter 2")!;
        Assert.Equal((null, "noRecord"), (meter["calibratedOn"], meter["calibration"]!.ToString()));
        Assert.NotEmpty((await second.Get("/api/catalogue"))["problems"]!.AsArray());
    }

    /// <summary>A change is kept, and the Cards that lean on it cannot be judged at that moment: a full disk, a pulled plug. Nobody is told
    /// that nothing was kept, and nobody is shown what was judged before.</summary>
    [Fact]
    public async Task AChangeWhoseJudgingWasBrokenOffLeavesNoOldVerdict()
    {
        using var at = new Site();
        var row = Id(await at.Card("CC-02"), "cable.length");
        Assert.Equal(
            200,
            (
                await at.Post(
                    $"/api/cards/{at.Stops["CC-02"]}/readings",
                    at.Entry(
                        new
                        {
                            row,
                            source = "typed",
                            text = "70",
                        }
                    )
                )
            ).Status
        );
        async Task<string> OnTheWalk() =>
            (await at.Get($"/api/jobs/{at.JobId}/walk"))["areas"]!
                .AsArray()
                .SelectMany(a => a!["stops"]!.AsArray())
                .Single(s => s!["label"]!.ToString() == "CC-02")!["verdict"]!.ToString();
        Assert.Equal("open", await OnTheWalk());

        void Sql(string text)
        {
            using var db = new SqliteConnection($"Data Source={Path.Combine(at.Data, "walkdown.db")};Pooling=False");
            db.Open();
            using var command = db.CreateCommand();
            command.CommandText = text;
            command.ExecuteNonQuery();
        }
        // From here on no summary can be written, but for being taken back.
        Sql("CREATE TRIGGER plug BEFORE UPDATE ON Cards WHEN NEW.Signature <> '' BEGIN SELECT RAISE(ABORT, 'plug'); END");
        using var sheet = new MultipartFormDataContent();
        var file = "label,kind,run,length_m\nCC-02,dome-fixed,CC-02,31\n"u8.ToArray();
        using var send = new ByteArrayContent(file) { Headers = { ContentType = new("application/octet-stream") } };
        using var sent = await at.Http.PostAsync($"/api/jobs/{at.JobId}/imports?name=longer.csv", send);
        var draft = Site.Json(await sent.Content.ReadAsStringAsync());
        var mapping = draft["sheets"]![0]!["proposed"]!;
        var (_, look) = await at.Post($"/api/jobs/{at.JobId}/imports/{draft["id"]}/preview", new { sheet = 0, mapping });
        var (status, work) = await at.Post(
            $"/api/jobs/{at.JobId}/imports/{draft["id"]}/take",
            new
            {
                sheet = 0,
                mapping,
                basis = look["basis"],
                by = at.Ina,
            }
        );
        Assert.True(status == 200, work.ToJsonString());
        work = await at.Over(work);
        Assert.True(
            ("done", 1) == (work["state"]!.ToString(), work["outcome"]?["changed"]?.GetValue<int>() ?? -1),
            work.ToJsonString() + draft["sheets"]![0]!.ToJsonString()
        );
        using (var walk = await at.Http.GetAsync($"/api/jobs/{at.JobId}/walk"))
            Assert.Equal(503, (int)walk.StatusCode);

        Sql("DROP TRIGGER plug");
        // 70 m where 31 are planned now.
        Assert.Equal("refused", await OnTheWalk());
        Assert.Equal("refused", (await at.Card("CC-02"))["card"]!["verdict"]!["verdict"]!.ToString());
    }

    /// <summary>The company's catalogue is put in force before its edition is on record: where that fails, it is in force
    /// nowhere.</summary>
    [Fact]
    public async Task ACatalogueThatCannotBePutOnRecordIsInForceNowhere()
    {
        using var at = new Site();
        async Task<JsonNode> Change(double percent)
        {
            var own = JsonNode.Parse(
                $$"""
                { "figures": [{ "id": "agree.length-percent", "source": "the company's own",
                  "value": {{percent.ToString(CultureInfo.InvariantCulture)}} }] }
                """
            );
            var (status, work) = await at.Post($"/api/jobs/{at.JobId}/catalogue", at.Entry(new { own, why = "stricter" }));
            Assert.True(status == 200, work.ToJsonString());
            return await at.Over(work);
        }
        async Task<string> InForce() => (await at.Get("/api/catalogue/own"))["own"]!["figures"]!.ToJsonString();

        void Sql(string text)
        {
            using var db = new SqliteConnection($"Data Source={Path.Combine(at.Data, "walkdown.db")};Pooling=False");
            db.Open();
            using var command = db.CreateCommand();
            command.CommandText = text;
            command.ExecuteNonQuery();
        }
        const string plug = "CREATE TRIGGER plug BEFORE INSERT ON Journal BEGIN SELECT RAISE(ABORT, 'plug'); END";
        var nothing = await InForce();
        Sql(plug);
        Assert.Equal("failed", (await Change(7))["state"]!.ToString());
        Assert.Equal(nothing, await InForce());
        Sql("DROP TRIGGER plug");
        Assert.Equal("done", (await Change(8))["state"]!.ToString());
        var eight = await InForce();
        Assert.Contains("8", eight);
        Sql(plug);
        Assert.Equal("failed", (await Change(9))["state"]!.ToString());
        Assert.Equal(eight, await InForce());
    }

    /// <summary>A bad sector in a word or an id of one entry: that entry cannot be read, and every page and every other entry
    /// can.</summary>
    [Theory]
    [InlineData("BW-01", "Readings", "SubjectKind")]
    [InlineData("BW-02", "Readings", "Under")]
    [InlineData("BW-03", "Readings", "Found")]
    [InlineData("BW-04", "Readings", "Source")]
    [InlineData("BW-05", "Readings", "By")]
    [InlineData("BW-06", "Faults", "SubjectKind")]
    [InlineData("GT-01", "Faults", "Under")]
    [InlineData("GT-02", "Faults", "Severity")]
    [InlineData("GT-03", "Faults", "FromReading")]
    [InlineData("GT-04", "Faults", "RaisedBy")]
    [InlineData("GT-05", "InstrumentChecks", "Unit")]
    [InlineData("GT-06", "InstrumentChecks", "By")]
    public async Task ADamagedWordOfOneEntrySpoilsThatEntryAlone(string label, string table, string column)
    {
        var map = Id(await site.Card(label), "cable.label");
        var wrong = new { kind = "yesNo", yes = false };
        await site.Add(
            label,
            "readings",
            new
            {
                row = map,
                source = "typed",
                value = wrong,
            }
        );
        await site.Add(
            label,
            "faults",
            new
            {
                row = map,
                title = "another label",
                severity = "major",
            }
        );
        var meter = site.Instruments["Cable meter 2"];
        var check = site.Entry(
            new
            {
                unit = "metre",
                reference = 10,
                reading = 10,
            }
        );
        Assert.Equal(200, (await site.Post($"{Job}/instruments/{meter}/checks", check)).Status);
        long row = 0;
        object? was = null;
        void Sql(string text, params (string, object?)[] with)
        {
            using var db = new SqliteConnection($"Data Source={Path.Combine(site.Data, "walkdown.db")};Pooling=False");
            db.Open();
            using var guards = db.CreateCommand();
            guards.CommandText = $"SELECT name FROM sqlite_master WHERE type = 'trigger' AND tbl_name = '{table}'";
            var names = new List<string>();
            using (var read = guards.ExecuteReader())
                while (read.Read())
                    names.Add(read.GetString(0));
            foreach (var name in names)
            {
                guards.CommandText = $"DROP TRIGGER \"{name}\"";
                guards.ExecuteNonQuery();
            }
            using var command = db.CreateCommand();
            command.CommandText = text;
            foreach (var (name, value) in with)
                command.Parameters.AddWithValue(name, value ?? DBNull.Value);
            using var found = command.ExecuteReader();
            if (found.Read())
                (row, was) = (found.GetInt64(0), found.IsDBNull(1) ? null : found.GetValue(1));
        }
        Sql($"SELECT rowid, {column} FROM {table} ORDER BY rowid DESC LIMIT 1");
        Sql($"UPDATE {table} SET {column} = '{{broken' WHERE rowid = $row", ("$row", row));
        try
        {
            // What is kept in memory is forgotten by any change of the job.
            Assert.Equal(
                200,
                (
                    await site.Post(
                        $"{Job}/people",
                        new
                        {
                            id = Guid.NewGuid(),
                            name = "Somebody",
                            role = "",
                            mayWitness = false,
                        }
                    )
                ).Status
            );
            foreach (var page in new[] { "walk", "register", "kit", "power", "handover", "handover/sums/open" })
            {
                using var answer = await site.Http.GetAsync($"{Job}/{page}");
                Assert.True(
                    answer.IsSuccessStatusCode || page.StartsWith("handover/sums", StringComparison.Ordinal),
                    $"{page}: {await answer.Content.ReadAsStringAsync()}"
                );
            }
            var card = (await site.Card(label))["card"]!;
            if (table == "Faults")
                Assert.Contains(card["faults"]!.AsArray(), f => f!["open"]!.GetValue<bool>());
            // Nothing damaged is ever in.
            Assert.NotEqual("accepted", card["verdict"]!["verdict"]!.ToString());
            if (table == "InstrumentChecks" && column == "Unit")
            {
                var kit = await site.Get($"{Job}/kit");
                var shown = kit["instruments"]!.AsArray().Single(i => i!["id"]!.ToString() == meter)!;
                Assert.NotEmpty(shown["inDoubt"]!.AsArray());
            }
        }
        finally
        {
            Sql($"UPDATE {table} SET {column} = $was WHERE rowid = $row", ("$was", was), ("$row", row));
        }
    }
}
