namespace Walkdown.Server.Network;

/// <summary>What Kestrel reads of the one address that is open to phones, so that it opens and closes without a new start.</summary>
public sealed class PhoneListening : ConfigurationProvider, IConfigurationSource
{
    /// <summary>The name of the address in Kestrel's settings.</summary>
    public const string Endpoint = "Phones";

    public IConfigurationProvider Build(IConfigurationBuilder builder) => this;

    /// <param name="url">Such as https://192.168.8.20:4443; null closes.</param>
    public void Set(string? url)
    {
        Data = url is null
            ? new Dictionary<string, string?>()
            : new Dictionary<string, string?>(StringComparer.OrdinalIgnoreCase) { [$"Endpoints:{Endpoint}:Url"] = url };
        OnReload();
    }
}
