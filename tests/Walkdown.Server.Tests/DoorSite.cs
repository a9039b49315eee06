using System.Net;
using System.Net.Http.Json;
using System.Net.Security;
using System.Net.Sockets;
using System.Security.Cryptography.X509Certificates;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;

namespace Walkdown.Server.Tests;

/// <summary>The site with accounts, open to a network by HTTPS: each browser trusts the installation's own authority and nothing
/// else.</summary>
public sealed class DoorSite : IDisposable
{
    public const string Passphrase = "quiet ferry lantern seven";

    /// <summary>Sign-in names, each after what it is.</summary>
    public static readonly string[] Names = ["technician", "lead", "client", "auditor", "administrator"];

    private readonly X509Certificate2 _authority;
    private readonly List<Browser> _browsers = [];
    private int _last;

    public DoorSite()
    {
        Site = new Site();
        var probe = new TcpListener(IPAddress.Loopback, 0);
        probe.Start();
        Port = ((IPEndPoint)probe.LocalEndpoint).Port;
        probe.Stop();
        var kit = Site.Get($"/api/jobs/{Site.JobId}/kit").Result;
        People = [.. kit["people"]!.AsArray().Select(p => p!["id"]!.ToString())];
        var first = Site.Send(
            "/api/access/first",
            new
            {
                name = "Ina Solberg",
                userName = "ina",
                passphrase = Passphrase,
                people = new[] { new { jobId = Site.JobId, personId = People[0] } },
            }
        ).Result;
        Assert.True(first.Status == 200, first.Body.ToJsonString());
        var open = Site.Http.PutAsJsonAsync("/api/network", new { address = "127.0.0.1", port = Port }).Result;
        Assert.True(open.IsSuccessStatusCode, open.Content.ReadAsStringAsync().Result);
        _authority = X509CertificateLoader.LoadCertificate(Site.Http.GetByteArrayAsync("/api/trust/authority.crt").Result);
        Address = new Uri($"https://127.0.0.1:{Port}");
    }

    public Site Site { get; }
    public int Port { get; }
    public Uri Address { get; }

    /// <summary>Ids of the job's people; the first is Ina's.</summary>
    public IReadOnlyList<string> People { get; }

    /// <summary>A browser with cookies and an address of its own.</summary>
    /// <param name="from">Its address; null for one that nobody had before.</param>
    /// <param name="anyName">It does not mind by which name the installation answers, as somebody who forges one.</param>
    public Browser NewBrowser(IPAddress? from = null, bool anyName = false)
    {
        var browser = new Browser(Address, _authority, from ?? IPAddress.Parse($"127.0.2.{Interlocked.Increment(ref _last)}"), anyName);
        _browsers.Add(browser);
        return browser;
    }

    /// <summary>A code by which somebody comes in.</summary>
    public async Task<string> Invite(string name, string role, string? person = null, string? account = null)
    {
        var (status, body) = await Site.Send(
            "/api/access/invitations",
            new
            {
                name,
                roles = new[] { role },
                people = person is null ? [] : new[] { new { jobId = Site.JobId, personId = person } },
                accountId = account,
            }
        );
        Assert.True(status == 200, body.ToJsonString());
        return body["code"]!.ToString();
    }

    /// <summary>Somebody new, signed in on a browser of his own.</summary>
    public async Task<Browser> Let(string userName, string role, string? person = null)
    {
        var code = await Invite(userName, role, person);
        var browser = NewBrowser();
        var (status, body) = await browser.Send(
            HttpMethod.Post,
            "/api/access/join",
            new
            {
                code,
                userName,
                passphrase = Passphrase,
            }
        );
        Assert.True(status == 200, body?.ToJsonString());
        return browser;
    }

    /// <summary>Changes the file of accounts from outside, as time would.</summary>
    public void Sql(string sql)
    {
        using var connection = new SqliteConnection($"Data Source={Path.Combine(Site.Data, "accounts.db")}");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    public void Dispose()
    {
        foreach (var browser in _browsers)
            browser.Dispose();
        Site.Dispose();
        _authority.Dispose();
    }
}

/// <summary>One browser: its cookies, and whom it trusts.</summary>
public sealed class Browser : IDisposable
{
    private readonly SocketsHttpHandler _handler;

    public Browser(Uri address, X509Certificate2 authority, IPAddress from, bool anyName)
    {
        _handler = new SocketsHttpHandler
        {
            CookieContainer = Cookies,
            ConnectCallback = async (context, cancel) =>
            {
                var socket = new Socket(SocketType.Stream, ProtocolType.Tcp);
                socket.Bind(new IPEndPoint(from, 0));
                await socket.ConnectAsync(IPAddress.Loopback, context.DnsEndPoint.Port, cancel);
                return new NetworkStream(socket, ownsSocket: true);
            },
            SslOptions = new SslClientAuthenticationOptions
            {
                RemoteCertificateValidationCallback = (_, _, _, wrong) =>
                    wrong == SslPolicyErrors.None || anyName && wrong == SslPolicyErrors.RemoteCertificateNameMismatch,
                CertificateChainPolicy = new X509ChainPolicy
                {
                    TrustMode = X509ChainTrustMode.CustomRootTrust,
                    CustomTrustStore = { authority },
                    RevocationMode = X509RevocationMode.NoCheck,
                },
            },
        };
        Http = new HttpClient(_handler) { BaseAddress = address };
    }

    public CookieContainer Cookies { get; } = new();
    public HttpClient Http { get; }

    public async Task<(int Status, JsonNode? Body)> Send(HttpMethod method, string path, object? body = null, string? file = null)
    {
        using var request = new HttpRequestMessage(method, path);
        if (body is not null)
            request.Content = JsonContent.Create(body);
        if (file is not null && request.Content is { } content)
            content.Headers.ContentType = new(file);
        using var response = await Http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
        var json = response.Content.Headers.ContentType?.MediaType?.EndsWith("json", StringComparison.Ordinal) == true;
        return ((int)response.StatusCode, json ? JsonNode.Parse(await response.Content.ReadAsStringAsync()) : null);
    }

    public Task<(int Status, JsonNode? Body)> Get(string path) => Send(HttpMethod.Get, path);

    public Task<(int Status, JsonNode? Body)> SignIn(string userName, string passphrase = DoorSite.Passphrase) =>
        Send(HttpMethod.Post, "/api/access/sign-in", new { userName, passphrase });

    public void Dispose()
    {
        Http.Dispose();
        _handler.Dispose();
    }
}
