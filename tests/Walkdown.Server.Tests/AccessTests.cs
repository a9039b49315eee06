using System.Net;
using System.Text.Json.Nodes;
using CsCheck;
using Microsoft.AspNetCore.Http;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Walkdown.Access;
using Walkdown.Server.Door;

namespace Walkdown.Server.Tests;

/// <summary>The door: who guesses, replays, steals or is shut out gets nothing, and who is in loses nothing.</summary>
public sealed class AccessTests(DoorSite door) : IClassFixture<DoorSite>
{
    private async Task<string> Person(string name)
    {
        var (status, added) = await door.Site.Send(
            $"/api/jobs/{door.Site.JobId}/people",
            new
            {
                id = Guid.CreateVersion7(),
                name,
                role = "technician",
                mayWitness = false,
            }
        );
        Assert.True(status == 200, added.ToJsonString());
        return added["id"]!.ToString();
    }

    private static Task<(int Status, JsonNode? Body)> Join(
        Browser browser,
        string code,
        string userName,
        string passphrase = DoorSite.Passphrase
    ) =>
        browser.Send(
            HttpMethod.Post,
            "/api/access/join",
            new
            {
                code,
                userName,
                passphrase,
            }
        );

    [Fact]
    public async Task AnInvitationLetsOnePersonInOnce()
    {
        var person = await Person("Per Anker");
        var code = await door.Invite("Per Anker", "technician", person);
        // As one reads it off a screen.
        var asRead = code.ToLowerInvariant().Replace('0', 'o').Replace("-", " ");
        var looked = await door.NewBrowser().Send(HttpMethod.Post, "/api/access/invited", new { code = asRead });
        Assert.Equal("Per Anker", looked.Body!["name"]!.ToString());
        // A weak passphrase or a name that is taken does not use it up.
        var browser = door.NewBrowser();
        Assert.Equal("passphrase", (await Join(browser, code, "per", "password1234")).Body!["field"]!.ToString());
        Assert.Equal("userName", (await Join(browser, code, "INA")).Body!["field"]!.ToString());
        // Two at once: one of them.
        var both = await Task.WhenAll(Join(door.NewBrowser(), code, "per"), Join(door.NewBrowser(), code, "per2"));
        Assert.Equal([200, 422], both.Select(b => b.Status).Order());
        Assert.Equal(422, (await Join(door.NewBrowser(), code, "per3")).Status);
        Assert.Equal(person, both.Single(b => b.Status == 200).Body!["people"]![0]!["personId"]!.ToString());
        // It is in no file: neither as it was shown nor as it is typed.
        foreach (
            var file in Directory
                .EnumerateFiles(door.Site.Data, "*.*", SearchOption.AllDirectories)
                .Where(f => !f.EndsWith(".lock", StringComparison.Ordinal))
        )
        {
            await using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
            using var reader = new StreamReader(stream, System.Text.Encoding.Latin1);
            var text = await reader.ReadToEndAsync(TestContext.Current.CancellationToken);
            Assert.False(text.Contains(code.Replace("-", "")) || text.Contains(DoorSite.Passphrase), file);
        }
    }

    [Fact]
    public async Task AnInvitationOfYesterdaysYesterdayAndOneThatWasWithdrawnLetNobodyIn()
    {
        var old = await door.Invite("Too Late", "client");
        door.Sql($"UPDATE Invitations SET EndsAt = 0 WHERE Name = 'Too Late'");
        Assert.Equal(422, (await Join(door.NewBrowser(), old, "late")).Status);
        var withdrawn = await door.Invite("Never Mind", "client");
        var id = (await door.Site.Get("/api/access/accounts"))["invitations"]!
            .AsArray()
            .Single(i => i!["name"]!.ToString() == "Never Mind")!["id"]!.ToString();
        Assert.Equal(HttpStatusCode.NoContent, (await door.Site.Http.DeleteAsync($"/api/access/invitations/{id}")).StatusCode);
        Assert.Equal(422, (await Join(door.NewBrowser(), withdrawn, "mind")).Status);
        // Asked for again, the first is void.
        var first = await door.Invite("Twice Asked", "client");
        var second = await door.Invite("Twice Asked", "client");
        Assert.Equal(422, (await Join(door.NewBrowser(), first, "twice")).Status);
        Assert.Equal(200, (await Join(door.NewBrowser(), second, "twice")).Status);
    }

    [Fact]
    public async Task AStolenCookieIsWorthNothingAfterSignOut()
    {
        var browser = await door.Let("victim", "technician", await Person("Vic Tim"));
        var thief = door.NewBrowser();
        foreach (Cookie cookie in browser.Cookies.GetAllCookies())
        {
            // No script reads it, nothing but HTTPS carries it, no other page sends it.
            Assert.True(cookie.HttpOnly && cookie.Secure && cookie.Name.StartsWith("__Host-", StringComparison.Ordinal));
            thief.Cookies.Add(cookie);
        }
        Assert.Equal(200, (await thief.Get("/api/jobs")).Status);
        // Whoever listens hears nothing more either.
        using var live = await thief.Http.GetStreamAsync($"/api/jobs/{door.Site.JobId}/live", TestContext.Current.CancellationToken);
        using var reader = new StreamReader(live);
        Assert.StartsWith("event: hello", await reader.ReadLineAsync(TestContext.Current.CancellationToken));
        Assert.Equal(204, (await browser.Send(HttpMethod.Post, "/api/access/sign-out")).Status);
        while (await reader.ReadLineAsync(TestContext.Current.CancellationToken) is not null) { }
        Assert.Equal(401, (await thief.Get("/api/jobs")).Status);
        // Signing in anew makes another mark; the one from before stays void.
        Assert.Equal(200, (await browser.SignIn("victim")).Status);
        Assert.Equal(401, (await thief.Get("/api/jobs")).Status);
        Assert.Equal(200, (await browser.Get("/api/jobs")).Status);
    }

    [Fact]
    public async Task WhatABrowserShowedBeforeASignInIsVoidAfterIt()
    {
        var browser = await door.Let("fixed", "technician", await Person("Fix Ed"));
        var before = browser.Cookies.GetAllCookies().Single(c => c.Name.EndsWith("session", StringComparison.Ordinal)).Value;
        Assert.Equal(200, (await browser.SignIn("fixed")).Status);
        Assert.NotEqual(before, browser.Cookies.GetAllCookies().Single(c => c.Name.EndsWith("session", StringComparison.Ordinal)).Value);
        var other = door.NewBrowser();
        other.Cookies.Add(new Cookie("__Host-walkdown-session", before, "/", "127.0.0.1") { Secure = true });
        Assert.Equal(401, (await other.Get("/api/jobs")).Status);
        foreach (var made in new[] { "", "x", new string('0', 64), new string('a', 90) })
        {
            var guess = door.NewBrowser();
            guess.Cookies.Add(new Cookie("__Host-walkdown-session", made, "/", "127.0.0.1") { Secure = true });
            Assert.Equal(401, (await guess.Get("/api/jobs")).Status);
        }
    }

    [Fact]
    public async Task AfterSixWrongPassphrasesTheRightOneIsRefusedToo()
    {
        await door.Let("guessed", "technician", await Person("Gus Est"));
        var browser = door.NewBrowser();
        var unknown = (await browser.SignIn("nobody.here", "wrong wrong wrong")).Body!["detail"]!.ToString();
        for (var i = 0; i < 6; i++)
        {
            var (status, body) = await browser.SignIn("guessed", "wrong wrong wrong");
            Assert.Equal(401, status);
            // The same words for who is there and who is not.
            Assert.Equal(unknown, body!["detail"]!.ToString());
        }
        Assert.Equal(401, (await browser.SignIn("guessed")).Status);
        var account = (await door.Site.Get("/api/access/accounts"))["accounts"]!
            .AsArray()
            .Single(a => a!["userName"]!.ToString() == "guessed")!;
        Assert.NotNull(account["lockedUntil"]);
        // Who lets people in ends it with a new passphrase, and by that every session of before.
        var code = await door.Invite("", "technician", account: account["id"]!.ToString());
        Assert.Equal(200, (await Join(browser, code, "", "other words for pier nine")).Status);
        Assert.Equal(401, (await door.NewBrowser().SignIn("guessed")).Status);
        Assert.Equal(200, (await door.NewBrowser().SignIn("guessed", "other words for pier nine")).Status);
    }

    [Fact]
    public async Task NobodyRecordsInAnothersNameButASharedBrowserHandsInWhatBothDid()
    {
        var site = door.Site;
        var (anna, bert) = (await Person("Anna Voss"), await Person("Bert Lind"));
        var tablet = await door.Let("anna", "technician", anna);
        await door.Let("bert", "technician", bert);
        var note = $"/api/cards/{site.Stops["GT-02"]}/notes";
        JsonObject By(string person)
        {
            var entry = site.Entry(new { text = "cover scratched" });
            entry["by"] = person;
            return entry;
        }
        Assert.Equal(200, (await tablet.Send(HttpMethod.Post, note, By(anna))).Status);
        var refused = await tablet.Send(HttpMethod.Post, note, By(bert));
        Assert.Equal((403, "problem.in-anothers-name"), (refused.Status, refused.Body!["code"]!.ToString()));
        // A short code needs the passphrase once more, and digits that nobody tries first.
        Task<(int Status, JsonNode? Body)> Code(string passphrase, string code) =>
            tablet.Send(HttpMethod.Put, "/api/access/code", new { passphrase, code });
        Assert.Equal("passphrase", (await Code("not the passphrase", "482915")).Body!["field"]!.ToString());
        foreach (var weak in new[] { "123456", "111111", "987654", "12345", "abcdef" })
            Assert.Equal("code", (await Code(DoorSite.Passphrase, weak)).Body!["field"]!.ToString());
        Assert.Equal(204, (await Code(DoorSite.Passphrase, "482915")).Status);
        // Bert signs in on Anna's tablet: what she recorded on it may go out under his session.
        Assert.Equal(200, (await tablet.SignIn("bert")).Status);
        Assert.Equal(200, (await tablet.Send(HttpMethod.Post, note, By(anna))).Status);
        var here = (await tablet.Get("/api/access")).Body!["here"]!.AsArray();
        Assert.Equal("anna", here.Single()!["name"]!.ToString());
        var account = here.Single()!["id"]!.ToString();
        // Elsewhere the code is worth nothing.
        Assert.Equal(
            401,
            (await door.NewBrowser().Send(HttpMethod.Post, "/api/access/switch", new { accountId = account, code = "482915" })).Status
        );
        Assert.Equal(200, (await tablet.Send(HttpMethod.Post, "/api/access/switch", new { accountId = account, code = "482915" })).Status);
        Assert.Equal("anna", (await tablet.Get("/api/access")).Body!["me"]!["userName"]!.ToString());
        // Five wrong ones, many at once: void, and the right one with them.
        var guesses = await Task.WhenAll(
            Enumerable
                .Range(0, 7)
                .Select(n => tablet.Send(HttpMethod.Post, "/api/access/switch", new { accountId = account, code = $"60{n}153" }))
        );
        Assert.All(guesses, g => Assert.Equal(401, g.Status));
        Assert.Equal(401, (await tablet.Send(HttpMethod.Post, "/api/access/switch", new { accountId = account, code = "482915" })).Status);
        Assert.Empty((await tablet.Get("/api/access")).Body!["here"]!.AsArray());
    }

    [Fact]
    public async Task WhoIsShutOutIsOutAtOnceAndSomebodyAlwaysCanLetIn()
    {
        var person = await Person("Ole Gone");
        var browser = await door.Let("gone", "technician", person);
        var accounts = (await door.Site.Get("/api/access/accounts"))["accounts"]!.AsArray();
        var gone = accounts.Single(a => a!["userName"]!.ToString() == "gone")!;
        async Task<(int Status, string Code)> Change(JsonNode account, string[] roles, bool ended)
        {
            using var response = await door.Site.Http.PutAsync(
                $"/api/access/accounts/{account["id"]}",
                System.Net.Http.Json.JsonContent.Create(
                    new
                    {
                        roles,
                        people = account["people"],
                        ended,
                    }
                )
            );
            var body = JsonNode.Parse(await response.Content.ReadAsStringAsync());
            return ((int)response.StatusCode, (body as JsonObject)?["code"]?.ToString() ?? "");
        }
        Assert.Equal(200, (await browser.Get("/api/jobs")).Status);
        // Less is less at once, without a new sign-in.
        Assert.Equal(200, (await Change(gone, ["client"], false)).Status);
        Assert.Equal(403, (await browser.Send(HttpMethod.Post, $"/api/cards/{door.Site.Stops["GT-02"]}/notes", new { })).Status);
        Assert.Equal(200, (await Change(gone, ["technician"], true)).Status);
        Assert.Equal(401, (await browser.Get("/api/jobs")).Status);
        Assert.Equal(401, (await browser.SignIn("gone")).Status);
        var ina = accounts.Single(a => a!["userName"]!.ToString() == "ina")!;
        // As long as another could let people in, he may stop; then the last may not.
        foreach (var other in accounts.Where(a => a != ina && a!["roles"]!.AsArray().Any(r => r!.ToString() == "administrator")))
            Assert.Equal(200, (await Change(other!, ["administrator"], true)).Status);
        Assert.Equal((422, "problem.last-administrator"), await Change(ina, ["lead"], false));
        Assert.Equal((422, "problem.last-administrator"), await Change(ina, ["lead", "administrator"], true));
        Assert.Equal((422, "problem.no-role"), await Change(ina, [], false));
    }

    [Fact]
    public async Task AForgedNameGetsNothingOverTheNetworkEither()
    {
        await door.Let("hosted", "auditor", await Person("Hos Ted"));
        var browser = door.NewBrowser(anyName: true);
        Assert.Equal(200, (await browser.SignIn("hosted")).Status);
        foreach (var host in new[] { "evil.test", "localhost", "localhost.evil.test", "127.0.0.2", "[::1]", "walkdown.local.evil.test" })
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, "/api/jobs");
            request.Headers.Host = $"{host}:{door.Port}";
            using var response = await browser.Http.SendAsync(request, TestContext.Current.CancellationToken);
            Assert.Equal(HttpStatusCode.MisdirectedRequest, response.StatusCode);
        }
        // And over the loopback by the network's name.
        using var mixed = new HttpRequestMessage(HttpMethod.Get, "/api/jobs");
        mixed.Headers.Host = $"{Authority.HostName}.local";
        using var answer = await door.Site.Http.SendAsync(mixed, TestContext.Current.CancellationToken);
        Assert.Equal(HttpStatusCode.MisdirectedRequest, answer.StatusCode);
        // Another page may ask for nothing in his name.
        using var cross = new HttpRequestMessage(HttpMethod.Post, "/api/access/sign-out");
        cross.Headers.Add("Origin", "https://evil.test");
        using var refused = await browser.Http.SendAsync(cross, TestContext.Current.CancellationToken);
        Assert.Equal(HttpStatusCode.Forbidden, refused.StatusCode);
        Assert.Equal(200, (await browser.Get("/api/jobs")).Status);
    }

    [Fact]
    public async Task TheNetworkIsOpenedAndTheFirstAccountMadeAtTheMachineOnly()
    {
        var administrator = await door.Let("far.admin", "administrator");
        var (status, body) = await administrator.Send(HttpMethod.Put, "/api/network", new { address = "" });
        Assert.Equal((403, "problem.network-is-here"), (status, body!["code"]!.ToString()));
        (status, body) = await administrator.Send(
            HttpMethod.Post,
            "/api/access/first",
            new
            {
                name = "Me Too",
                userName = "metoo",
                passphrase = DoorSite.Passphrase,
                people = Array.Empty<object>(),
            }
        );
        Assert.Equal((403, "problem.first-is-here"), (status, body!["code"]!.ToString()));
        var (again, second) = await door.Site.Send(
            "/api/access/first",
            new
            {
                name = "Me Too",
                userName = "metoo",
                passphrase = DoorSite.Passphrase,
                people = Array.Empty<object>(),
            }
        );
        Assert.Equal((422, "problem.not-first"), (again, second["code"]!.ToString()));
    }

    [Fact]
    public async Task AtTheMachineItselfASignInIsAskedOnceSomebodyWasLetInButNotInTheDemo()
    {
        var folder = Directory.CreateTempSubdirectory("walkdown-test-");
        try
        {
            var services = new ServiceCollection();
            services.AddSingleton(TimeProvider.System).AddLogging().AddAccess(folder.FullName);
            await using var provider = services.BuildServiceProvider();
            var book = provider.GetRequiredService<AccessBook>();
            DefaultHttpContext From(string address, bool https)
            {
                var http = new DefaultHttpContext();
                http.Connection.RemoteIpAddress = IPAddress.Parse(address);
                http.Request.IsHttps = https;
                return http;
            }
            var (real, demo) = (new Gate(new GateSettings(false), book, null!), new Gate(new GateSettings(true), book, null!));
            Assert.True(real.IsOwnersAlone(From("127.0.0.1", false)));
            foreach (var gate in new[] { real, demo })
            {
                Assert.False(gate.IsOwnersAlone(From("192.168.8.30", false)));
                Assert.False(gate.IsOwnersAlone(From("192.168.8.30", true)));
                // This machine by its address on the network is the network.
                Assert.False(gate.IsOwnersAlone(From("127.0.0.1", true)));
            }
            await using (var scope = provider.CreateAsyncScope())
                Assert.NotNull(
                    (
                        await scope.ServiceProvider.GetRequiredService<Admission>().First("Ina Solberg", "ina", DoorSite.Passphrase, [])
                    ).Account
                );
            Assert.False(real.IsOwnersAlone(From("127.0.0.1", false)));
            Assert.True(demo.IsOwnersAlone(From("127.0.0.1", false)));
        }
        finally
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            folder.Delete(true);
        }
    }

    [Fact]
    public void WhoWasShutOutStaysSoAfterAPulledPlug()
    {
        var folder = Directory.CreateTempSubdirectory("walkdown-test-");
        try
        {
            using var db = new AccessStore(folder.FullName).Open();
            var connection = db.Database.GetDbConnection();
            connection.Open();
            string Ask(string pragma)
            {
                using var command = connection.CreateCommand();
                command.CommandText = $"PRAGMA {pragma};";
                return command.ExecuteScalar()!.ToString()!;
            }
            Assert.Equal(("wal", "2", "1"), (Ask("journal_mode"), Ask("synchronous"), Ask("foreign_keys")));
        }
        finally
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            folder.Delete(true);
        }
    }

    [Theory]
    [InlineData("this is no database at all, but long enough to be looked at")]
    [InlineData("")]
    public void AFileOfAccountsThatCannotBeReadLetsNobodyInAsIfThereWereNone(string content)
    {
        var folder = Directory.CreateTempSubdirectory("walkdown-test-");
        try
        {
            File.WriteAllText(Path.Combine(folder.FullName, "accounts.db"), content);
            var book = new AccessBook(new AccessStore(folder.FullName), TimeProvider.System);
            if (content.Length > 0)
                Assert.Contains("accounts.db", Assert.Throws<AccessStoreException>(() => book.Any).Message);
            else
                // Cut off before the first account was in it.
                Assert.False(book.Any);
        }
        finally
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            folder.Delete(true);
        }
    }

    [Theory]
    [InlineData("short words", false)]
    [InlineData("passwordpassword", false)]
    [InlineData("aaaaaaaaaaaaaaaa", false)]
    [InlineData("qwertyuiop[]", false)]
    [InlineData("123456789012", false)]
    [InlineData("Ina Solberg 2026", false)]
    [InlineData("walkdown1234", false)]
    [InlineData("quiet ferry lantern seven", true)]
    [InlineData("Zwölf Möwen überm Pier", true)]
    [InlineData("kT7#vQ2!mZ9p", true)]
    public void APassphraseIsLongAndNotWhatIsTriedFirst(string passphrase, bool holds) =>
        Assert.Equal(holds, Passphrases.Wrong(passphrase, "Ina Solberg", "ina") is null);

    [Fact]
    public void NoPassphraseStopsTheDoor() => Gen.String[0, 300].Sample(text => _ = Passphrases.Wrong(text, "Ina Solberg", text), iter: 40);
}

/// <summary>Guessing from one address is slowed down, whoever is guessed at. Of its own: it leaves nobody a try.</summary>
public sealed class GuessLimitTests(DoorSite door) : IClassFixture<DoorSite>
{
    [Fact]
    public async Task ManyGuessesAreAskedToWait()
    {
        var browser = door.NewBrowser();
        var other = door.NewBrowser();
        var answers = new List<int>();
        for (var i = 0; i < 40; i++)
            answers.Add((await browser.Send(HttpMethod.Post, "/api/access/invited", new { code = $"AAAAA{i:D5}" })).Status);
        Assert.Contains(429, answers);
        Assert.DoesNotContain(answers, a => a is not (422 or 429));
        // What is no guess goes on.
        Assert.Equal(200, (await browser.Get("/api/access")).Status);
        // And who guesses holds up nobody else.
        Assert.Equal(200, (await other.SignIn("ina")).Status);
    }
}
